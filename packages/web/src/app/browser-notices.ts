// New notifications shown by the browser itself, while a page of Meridiem is open somewhere: chosen on this device.
import type { Notice } from '@meridiem/contract';
import { useEffect, useRef, useState } from 'react';

const KEY = 'meridiem-browser-notices';

const isWanted = (): boolean => localStorage.getItem(KEY) === 'on';
const canShow = (): boolean => 'Notification' in window && Notification.permission === 'granted';

/** Whether this browser shows notifications, and a way to choose; asking the browser may be refused. */
export function useBrowserNotices(): [isOn: boolean, choose: (isOn: boolean) => Promise<boolean>] {
  const [isOn, setOn] = useState(() => isWanted() && canShow());
  const choose = async (wanted: boolean): Promise<boolean> => {
    const isAllowed = wanted && 'Notification' in window && (await Notification.requestPermission()) === 'granted';
    localStorage.setItem(KEY, isAllowed ? 'on' : 'off');
    setOn(isAllowed);
    return isAllowed === wanted;
  };
  return [isOn, choose];
}

/** Shows what is new since the page began to look. */
export function useShownByBrowser(notices: readonly Notice[] | undefined): void {
  const newest = useRef<number | null>(null);
  useEffect(() => {
    if (!notices) return;
    const last = newest.current;
    newest.current = Math.max(last ?? 0, ...notices.map(({ id }) => Number(id)));
    if (last === null || !isWanted() || !canShow()) return;
    for (const { id, words, link, kind } of notices.filter((notice) => Number(notice.id) > last)) {
      const shown = new Notification(kind === 'danger' ? 'Meridiem: danger' : 'Meridiem', {
        body: words,
        tag: id,
        requireInteraction: kind === 'danger',
      });
      shown.onclick = () => {
        window.focus();
        window.location.assign(link);
      };
    }
  }, [notices]);
}
