import type { Account } from '@meridiem/contract';
import { readNightSky, signOut, undoLast } from '@meridiem/contract';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { lazy, Suspense, useCallback, useEffect, useMemo, useState } from 'react';
import { Link, Outlet, useNavigate } from 'react-router';
import { NightStrip } from '../night-strip/NightStrip.tsx';
import { useCardTables } from '../ui/card-tables.ts';
import { useOneSheet } from '../ui/one-sheet.ts';
import { Loading } from '../ui/states.tsx';
import { MarginNote } from '../why/why-context.tsx';
import { clock, dayOf } from '../words/format.ts';
import { Alarms } from './Alarms.tsx';
import { call, wordsOf } from './api.ts';
import type { Command } from './commands.ts';
import { isTyping, listenForCommands } from './commands.ts';
import { Header } from './Header.tsx';
import { useLiveEvents } from './live.ts';
import { useNotice } from './notices.tsx';
import { HELP_PAGES, PAGES } from './pages.ts';
import { AccountContext } from './session.ts';
import { THEMES, useTheme } from './theme.ts';
import { allSaved } from './under-way.ts';
import { turnZone, useShownZone } from './zone.ts';

// What opens on demand is fetched beside the page, not before it.
const Palette = lazy(() => import('./Palette.tsx').then(({ Palette }) => ({ default: Palette })));

/** The frame of every page: tonight's slim strip, the pages in one line, the margin, commands. */
export function Shell({ account }: { account: Account }) {
  const navigate = useNavigate();
  const queryClient = useQueryClient();
  const notice = useNotice();
  const silentSince = useLiveEvents();
  const [, setTheme] = useTheme();
  const [paletteOpen, setPaletteOpen] = useState(false);
  const leave = useCallback((): void => void call(signOut).then(() => queryClient.resetQueries()), [queryClient]);
  const commands = useMemo((): Command[] => {
    const undo = (): void =>
      void allSaved()
        .then(() => call(undoLast))
        .then(
          ({ words }) => notice(words),
          (error: unknown) => notice(wordsOf(error), true),
        );
    return [
      ...PAGES.map((page) => ({ words: `Go to ${page.words}`, keys: page.keys, run: () => void navigate(page.to) })),
      { words: 'Undo my last change', keys: 'z', run: undo },
      { words: 'New project', keys: 'gn', run: () => void navigate('/projects?new=1') },
      { words: 'Review a period', keys: 'gr', run: () => void navigate('/review') },
      { words: 'New frame', keys: 'gc', run: () => void navigate('/framing') },
      { words: 'Time account', keys: 'ga', run: () => void navigate('/time') },
      { words: 'Calibration', keys: 'gk', run: () => void navigate('/calibration') },
      { words: 'Import exposures', keys: 'gi', run: () => void navigate('/imports') },
      ...THEMES.map((name) => ({ words: `Theme ${name}`, keys: `t${name[0]}`, run: () => setTheme(name) })),
      { words: 'Time zone: observatory, UTC or mine', keys: 'tz', run: turnZone },
      { words: 'All commands', keys: ':', run: () => setPaletteOpen(true) },
      { words: 'Messages outside the application', keys: 'gy', run: () => void navigate('/messages') },
      ...HELP_PAGES.map(({ words, to }) => ({
        words: `Help: ${words.charAt(0).toLowerCase()}${words.slice(1)}`,
        keys: `h${to[6]}`,
        run: () => void navigate(to),
      })),
      { words: 'Sign out', keys: 'gx', run: leave },
    ];
  }, [leave, navigate, notice, setTheme]);
  useEffect(() => listenForCommands(commands), [commands]);
  useEffect(() => listenForWhy(), []);
  useOneSheet();
  useCardTables();
  return (
    <AccountContext.Provider value={account}>
      <a href="#page" className="absolute -top-10 left-2 z-50 bg-raised px-2 focus:top-1">
        To the page
      </a>
      <SlimStrip />
      <Alarms />
      <Header account={account} silentSince={silentSince} onSearch={() => setPaletteOpen(true)} onSignOut={leave} />
      <main id="page" className="mx-auto max-w-[1280px] px-4 pb-16 pt-4 sm:px-6">
        <Suspense fallback={<Loading what="the page" />}>
          <Outlet />
        </Suspense>
      </main>
      <footer className="no-print mx-auto max-w-[1280px] px-6 pb-6 text-xs text-soft">
        Meridiem {import.meta.env.VITE_VERSION as string} ·{' '}
        <Link className="word-link" to="/help">
          Help
        </Link>
      </footer>
      <MarginNote />
      <Suspense fallback={null}>
        <Palette open={paletteOpen} onClose={() => setPaletteOpen(false)} commands={commands} />
      </Suspense>
    </AccountContext.Provider>
  );
}

/** "?" opens the why-note of the row or element that has the focus or lies under the pointer. */
function listenForWhy(): () => void {
  const onKey = (event: KeyboardEvent): void => {
    if (event.key !== '?' || isTyping(event.target)) return;
    const place = [...document.querySelectorAll(':hover, :focus, :focus-within')].reverse();
    const mark = place
      .map(
        (element) =>
          element.querySelector<HTMLElement>('[data-why]') ??
          (element.matches('[data-why]') ? (element as HTMLElement) : null),
      )
      .find(Boolean);
    mark?.click();
  };
  window.addEventListener('keydown', onKey);
  return () => window.removeEventListener('keydown', onKey);
}

/** The current night on top of every page: the way home. */
function SlimStrip() {
  const navigate = useNavigate();
  const { data } = useQuery({
    queryKey: ['sky', 'tonight'],
    queryFn: ({ signal }) => call(readNightSky, { params: { nightDate: 'tonight' }, signal }),
    refetchInterval: 60_000,
  });
  const { zone, words: zoneWords } = useShownZone(data?.timeZone ?? 'utc');
  if (!data) return <div className="h-[22px] bg-hairline" />;
  const { sky, nowUtcMs } = data;
  const words = `Tonight, ${dayOf(sky.nightDate)}: dark ${clock(sky.duskUtcMs, zone)} to ${clock(sky.dawnUtcMs, zone)}; now ${clock(nowUtcMs, zone)} (${zoneWords})`;
  return (
    <button
      type="button"
      className="no-print block w-full cursor-pointer"
      aria-label={words}
      title={words}
      onClick={() => void navigate('/tonight')}
    >
      <NightStrip sky={sky} zone={zone} height={22} nowUtcMs={nowUtcMs} label={words} />
    </button>
  );
}
