import { Popover, PopoverButton, PopoverPanel } from '@headlessui/react';
import { listNotices, seeNotices } from '@meridiem/contract';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { Link } from 'react-router';
import { dayAndClock } from '../words/format.ts';
import { call } from './api.ts';
import { useShownByBrowser } from './browser-notices.ts';
import { useShownZone } from './zone.ts';

/** One's notifications: how many are new, and the list. */
export function Notifications({ zone }: { zone: string }) {
  const queryClient = useQueryClient();
  const { zone: shown } = useShownZone(zone);
  const { data } = useQuery({ queryKey: ['notices'], queryFn: ({ signal }) => call(listNotices, { signal }) });
  useShownByBrowser(data?.notices);
  if (!data) return null;
  const see = (): void => void call(seeNotices).then(() => queryClient.invalidateQueries({ queryKey: ['notices'] }));
  return (
    <Popover>
      <PopoverButton className="cursor-pointer hover:text-ink" onClick={() => data.unseen > 0 && see()}>
        Notifications{' '}
        {data.unseen > 0 && (
          <span className="text-signal" aria-label={`${data.unseen} new`}>
            {data.unseen}
          </span>
        )}
      </PopoverButton>
      <PopoverPanel
        anchor="bottom end"
        className="z-30 max-h-[60vh] w-[380px] overflow-y-auto border border-hairline bg-raised p-3 text-ink shadow-lg"
      >
        <h2 className="text-lg">What you are notified about</h2>
        {data.notices.length === 0 && <p className="text-soft">Nothing yet.</p>}
        <ul>
          {data.notices.map((notice) => (
            <li key={notice.id} className={`rule py-1 ${notice.seen ? 'text-soft' : ''}`}>
              {notice.kind === 'danger' && <span className="text-signal">Danger </span>}
              <span className="text-xs text-soft">{dayAndClock(notice.at, shown)}</span>{' '}
              <Link className="word-link" to={notice.link}>
                {notice.words}
              </Link>
            </li>
          ))}
        </ul>
        <PopoverButton as={Link} className="word-link" to="/messages">
          By e-mail, webhook or browser too
        </PopoverButton>
      </PopoverPanel>
    </Popover>
  );
}
