import { listAlerts, markAlertSeen } from '@meridiem/contract';
import { useQuery } from '@tanstack/react-query';
import { call, wordsOf } from '../../../app/api.ts';
import { useNotice } from '../../../app/notices.tsx';
import { dayAndClock } from '../../../words/format.ts';

/** What judging wants somebody to look at, until somebody has. */
export function AlertList({ zone }: { zone: string }) {
  const notice = useNotice();
  const { data } = useQuery({ queryKey: ['ledger', 'alerts'], queryFn: ({ signal }) => call(listAlerts, { signal }) });
  if (!data || data.alerts.length === 0) return null;
  return (
    <ul aria-label="To look at" className="mt-2 border-l-2 border-signal pl-3">
      {data.alerts.map(({ id, atUtcMs, words }) => (
        <li key={id} className="flex items-baseline gap-3">
          <span className="text-soft">{dayAndClock(atUtcMs, zone)}</span>
          {words}
          <button
            type="button"
            className="word-link"
            onClick={() =>
              void call(markAlertSeen, { params: { id } }).catch((error: unknown) => notice(wordsOf(error), true))
            }
          >
            looked at
          </button>
        </li>
      ))}
    </ul>
  );
}
