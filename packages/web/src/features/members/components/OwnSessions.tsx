import type { OwnSession } from '@meridiem/contract';
import { endOwnSession, listOwnSessions } from '@meridiem/contract';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { call, wordsOf } from '../../../app/api.ts';
import { useNotice } from '../../../app/notices.tsx';
import { useAccount } from '../../../app/session.ts';
import { Failure } from '../../../ui/states.tsx';
import { dateOf, dayAndClock } from '../../../words/format.ts';
import { deviceOf } from '../device.ts';

const KEY = ['account', 'sessions'];

/** Where one is signed in, each place to be ended from here. */
export function OwnSessions() {
  const queryClient = useQueryClient();
  const notice = useNotice();
  const { data, error } = useQuery({ queryKey: KEY, queryFn: ({ signal }) => call(listOwnSessions, { signal }) });
  const end = async (id: string): Promise<void> => {
    await call(endOwnSession, { params: { id } }).then(
      () => notice('Signed out there'),
      (failure: unknown) => notice(wordsOf(failure), true),
    );
    await queryClient.invalidateQueries({ queryKey: KEY });
  };
  return (
    <section aria-label="Where you are signed in" className="mt-8">
      <h3 className="text-base">Where you are signed in</h3>
      {error && <Failure words={wordsOf(error)} />}
      <ul className="mt-1">
        {data?.sessions.map((session) => (
          <SessionRow key={session.id} session={session} onEnd={() => void end(session.id)} />
        ))}
      </ul>
    </section>
  );
}

function SessionRow({ session, onEnd }: { session: OwnSession; onEnd: () => void }) {
  const { timeZone } = useAccount();
  const { agent, address, begunUtcMs, seenUtcMs, isCurrent } = session;
  return (
    <li className="rule flex items-baseline justify-between gap-4 py-1.5">
      <span>
        {deviceOf(agent)} <span className="text-soft">from {address}</span>
        <br />
        <span className="text-sm text-soft">
          since {dateOf(begunUtcMs, timeZone)}, last used {dayAndClock(seenUtcMs, timeZone)}
        </span>
      </span>
      {isCurrent ? (
        <span className="text-soft">this one</span>
      ) : (
        <button
          type="button"
          className="act whitespace-nowrap"
          aria-label={`Sign out of ${deviceOf(agent)}, ${address}`}
          onClick={onEnd}
        >
          Sign out
        </button>
      )}
    </li>
  );
}
