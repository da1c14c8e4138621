import { readAlarms } from '@meridiem/contract';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { clock } from '../words/format.ts';
import { call } from './api.ts';
import { useShownZone } from './zone.ts';

const LOOK_EVERY_MS = 15_000;

/** What only a person at the site can mend, on every page until the roof is closed. */
export function Alarms() {
  const { data } = useQuery({
    queryKey: ['night', 'alarms'],
    queryFn: ({ signal }) => call(readAlarms, { signal }),
    refetchInterval: LOOK_EVERY_MS,
  });
  const { zone } = useShownZone(data?.timeZone ?? 'utc');
  return data?.alarms.map(({ rigId, rigName, nightDate, words, sinceUtcMs }) => (
    <p key={rigId} role="alert" className="border-y-2 border-signal bg-raised px-4 py-2 text-center text-signal">
      <strong>{rigName}:</strong> {words} Since {clock(sinceUtcMs, zone)}.{' '}
      <Link className="word-link" to={`/nights/${nightDate}/watch?rig=${rigId}`}>
        Watch
      </Link>
    </p>
  ));
}
