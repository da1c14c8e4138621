import { makeCalendarFeed, readCalendarFeed, revokeCalendarFeed } from '@meridiem/contract';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { call, wordsOf } from '../../../app/api.ts';
import { useNotice } from '../../../app/notices.tsx';
import { useAccount } from '../../../app/session.ts';
import { dateOf } from '../../../words/format.ts';
import { OneTimeLink } from './OneTimeLink.tsx';

const KEY = ['account', 'calendar'];

/** One's own address for calendar programs: published nights, as one may see them. */
export function CalendarFeed() {
  const queryClient = useQueryClient();
  const notice = useNotice();
  const { timeZone } = useAccount();
  const [path, setPath] = useState<string | null>(null);
  const { data } = useQuery({ queryKey: KEY, queryFn: ({ signal }) => call(readCalendarFeed, { signal }) });
  const attempt = (work: Promise<unknown>): void =>
    void work
      .then(() => queryClient.invalidateQueries({ queryKey: KEY }))
      .catch((error: unknown) => notice(wordsOf(error), true));
  const has = data?.madeUtcMs ?? null;
  return (
    <section aria-label="Calendar" className="mt-8">
      <h3 className="text-base">Published nights in your calendar program</h3>
      <p className="mt-1 text-soft">
        {has === null
          ? 'You have no calendar address. Anyone who has the address can read it, so keep it to yourself.'
          : `Your address was made on ${dateOf(has, timeZone)}. A new one ends the one before.`}
      </p>
      <p className="mt-2 flex gap-3">
        <button
          type="button"
          className="act"
          onClick={() => attempt(call(makeCalendarFeed).then((made) => setPath(made.path)))}
        >
          {has === null ? 'Make an address' : 'Make a new address'}
        </button>
        {has !== null && (
          <button
            type="button"
            className="act"
            onClick={() =>
              attempt(call(revokeCalendarFeed).then(() => (setPath(null), notice('The address is ended'))))
            }
          >
            End it
          </button>
        )}
      </p>
      {path && <OneTimeLink path={path}>Give this address to your calendar program.</OneTimeLink>}
    </section>
  );
}
