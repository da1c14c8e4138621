import type { Person, Role } from '@meridiem/contract';
import { ROLES } from '@meridiem/contract';
import { useState } from 'react';
import { wordsOf } from '../../../app/api.ts';
import { useNotice } from '../../../app/notices.tsx';
import { useAccount } from '../../../app/session.ts';
import { dateOf } from '../../../words/format.ts';
import type { MemberActs } from '../queries.ts';
import { GoodbyeDialog } from './GoodbyeDialog.tsx';
import { OneTimeLink } from './OneTimeLink.tsx';

interface MemberTableProps {
  readonly people: readonly Person[];
  readonly isCoordinator: boolean;
  readonly acts: MemberActs;
}

/** Everybody with role and projects; a coordinator changes roles and lets people pause or go. */
export function MemberTable({ people, isCoordinator, acts }: MemberTableProps) {
  const notice = useNotice();
  const { timeZone } = useAccount();
  const [leaving, setLeaving] = useState<Person | null>(null);
  const [link, setLink] = useState<{ person: Person; path: string } | null>(null);
  const attempt = (work: Promise<unknown>, done: string): void =>
    void work.then(
      () => notice(done),
      (error: unknown) => notice(wordsOf(error), true),
    );
  return (
    <>
      <table className="mt-4 w-full">
        <thead>
          <tr className="rule">
            <th scope="col">name</th>
            <th scope="col">role</th>
            <th scope="col" className="text-right">
              projects
            </th>
            <th scope="col">time zone</th>
            <th scope="col">in headers as</th>
            <th scope="col">since</th>
            {isCoordinator && <th scope="col">address</th>}
            {isCoordinator && <th scope="col"> </th>}
          </tr>
        </thead>
        <tbody>
          {people.map((person) => (
            <tr key={person.id} className="rule">
              <td className="font-serif text-base">
                {person.name}
                {person.isYou && <span className="text-sm text-soft"> (you)</span>}
                {person.suspended && <span className="text-sm text-signal"> suspended</span>}
              </td>
              <td>
                {isCoordinator ? (
                  <select
                    aria-label={`Role of ${person.name}`}
                    value={person.role}
                    onChange={(event) =>
                      attempt(
                        acts.edit(person.id, { role: event.target.value as Role }),
                        `${person.name} is ${event.target.value} now`,
                      )
                    }
                  >
                    {ROLES.map((role) => (
                      <option key={role}>{role}</option>
                    ))}
                  </select>
                ) : (
                  person.role
                )}
              </td>
              <td className="text-right">{person.projects}</td>
              <td className="text-soft">{person.timeZone}</td>
              <td className="text-soft">{person.fitsObserver ?? '—'}</td>
              <td className="whitespace-nowrap text-soft">{dateOf(person.sinceUtcMs, timeZone)}</td>
              {isCoordinator && <td className="text-soft">{person.email}</td>}
              {isCoordinator && (
                <td className="whitespace-nowrap text-right">
                  <button
                    type="button"
                    className="word-link"
                    onClick={() =>
                      attempt(
                        acts.edit(person.id, { suspended: !person.suspended }),
                        person.suspended ? `${person.name} is in again` : `${person.name} is suspended`,
                      )
                    }
                  >
                    {person.suspended ? 'readmit' : 'suspend'}
                  </button>
                  {', '}
                  <button
                    type="button"
                    className="word-link"
                    onClick={() =>
                      void acts.reset(person.id).then(
                        ({ path }) => setLink({ person, path }),
                        (error: unknown) => notice(wordsOf(error), true),
                      )
                    }
                  >
                    new password
                  </button>
                  {', '}
                  <button type="button" className="word-link" onClick={() => setLeaving(person)}>
                    remove
                  </button>
                </td>
              )}
            </tr>
          ))}
        </tbody>
      </table>
      {link && (
        <OneTimeLink path={link.path}>
          With this link {link.person.name} chooses a new password, once, within a day.
        </OneTimeLink>
      )}
      <GoodbyeDialog leaving={leaving} people={people} acts={acts} onClose={() => setLeaving(null)} />
    </>
  );
}
