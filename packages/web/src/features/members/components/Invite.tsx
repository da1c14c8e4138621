import type { Invitation, Role } from '@meridiem/contract';
import { ROLES } from '@meridiem/contract';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { ApiError, wordsOf } from '../../../app/api.ts';
import { useNotice } from '../../../app/notices.tsx';
import { Labelled } from '../../../ui/Labelled.tsx';
import { dayAndClock } from '../../../words/format.ts';
import type { MemberActs } from '../queries.ts';
import { OneTimeLink } from './OneTimeLink.tsx';

interface Wish {
  readonly name: string;
  readonly email: string;
  readonly role: Role;
  readonly timeZone: string;
  readonly fitsObserver: string;
}

const ZONES = Intl.supportedValuesOf('timeZone');
const HERE = Intl.DateTimeFormat().resolvedOptions().timeZone;

/** A new member by a link that works once. */
export function Invite({ invitations, acts }: { invitations: readonly Invitation[]; acts: MemberActs }) {
  const notice = useNotice();
  const [link, setLink] = useState<{ path: string; name: string } | null>(null);
  const { register, handleSubmit, setError, reset, formState } = useForm<Wish>({
    defaultValues: { role: 'member', timeZone: HERE, name: '', email: '', fitsObserver: '' },
  });
  const { errors, isSubmitting } = formState;
  const invite = async ({ fitsObserver, ...wish }: Wish): Promise<void> => {
    try {
      const { path } = await acts.invite({ ...wish, fitsObserver: fitsObserver.trim() || null });
      setLink({ path, name: wish.name });
      reset();
    } catch (error) {
      const field = error instanceof ApiError && error.field === 'timeZone' ? 'timeZone' : 'email';
      setError(field, { message: wordsOf(error) });
    }
  };
  return (
    <section aria-label="Invite">
      <h2 className="rule pb-1 text-lg">Invite a member</h2>
      <form className="mt-3 grid grid-cols-2 gap-3" onSubmit={(event) => void handleSubmit(invite)(event)} noValidate>
        <Labelled label="Name" error={errors.name?.message}>
          <input {...register('name', { required: 'A name is needed' })} aria-invalid={!!errors.name} />
        </Labelled>
        <Labelled label="E-mail address" error={errors.email?.message}>
          <input
            type="email"
            {...register('email', { required: 'An address is needed to sign in with' })}
            aria-invalid={!!errors.email}
          />
        </Labelled>
        <Labelled label="Role" error={undefined}>
          <select {...register('role')}>
            {ROLES.map((role) => (
              <option key={role}>{role}</option>
            ))}
          </select>
        </Labelled>
        <Labelled label="Time zone" error={errors.timeZone?.message}>
          <input list="zones" {...register('timeZone')} aria-invalid={!!errors.timeZone} />
        </Labelled>
        <Labelled label="Observer name in headers (may be empty)" error={undefined}>
          <input {...register('fitsObserver')} maxLength={68} />
        </Labelled>
        <button type="submit" className="act self-end justify-self-start" disabled={isSubmitting}>
          Make the link
        </button>
        <datalist id="zones">
          {ZONES.map((zone) => (
            <option key={zone} value={zone} />
          ))}
        </datalist>
      </form>
      {link && (
        <OneTimeLink path={link.path}>Hand this link to {link.name}; it works once, for seven days.</OneTimeLink>
      )}
      {invitations.length > 0 && (
        <ul aria-label="Open invitations" className="mt-4">
          {invitations.map(({ id, name, role, email, expiresUtcMs }) => (
            <li key={id} className="rule flex gap-4 py-1">
              <span>
                {name}, {role}
              </span>
              <span className="text-soft">
                {email}, until {dayAndClock(expiresUtcMs, HERE)} here
              </span>
              <button
                type="button"
                className="word-link ml-auto"
                onClick={() =>
                  void acts.withdraw(id).then(
                    () => notice(`The invitation of ${name} is withdrawn`),
                    (error: unknown) => notice(wordsOf(error), true),
                  )
                }
              >
                withdraw
              </button>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
