import type { Account } from '@meridiem/contract';
import { lazy, Suspense } from 'react';
import { NavLink } from 'react-router';
import { PAGES } from './pages.ts';

const Notifications = lazy(() =>
  import('./Notifications.tsx').then(({ Notifications }) => ({ default: Notifications })),
);

// Lists and menus come beside the page, not before it.
const ThemeChoice = lazy(() => import('./HeaderMenus.tsx').then(({ ThemeChoice }) => ({ default: ThemeChoice })));
const NarrowMenu = lazy(() => import('./HeaderMenus.tsx').then(({ NarrowMenu }) => ({ default: NarrowMenu })));

interface HeaderProps {
  readonly account: Account;
  /** Since when the server has not been reached; null while it is. */
  readonly silentSince: number | null;
  readonly onSearch: () => void;
  readonly onSignOut: () => void;
}

/** The pages in one line, which fold into a menu where it is narrow; search, theme and who is signed in. */
export function Header({ account, silentSince, onSearch, onSignOut }: HeaderProps) {
  return (
    <header className="rule mx-auto flex max-w-[1280px] flex-wrap items-baseline gap-x-4 px-4 pb-2 pt-3 sm:px-6">
      <p className="min-w-0 truncate font-serif text-lg">
        Meridiem <span className="text-sm text-soft">{account.observatoryName}</span>
      </p>
      <nav aria-label="Pages" className="hidden gap-3 lg:flex">
        {PAGES.map((page) => (
          <NavLink
            key={page.to}
            to={page.to}
            className={({ isActive }) =>
              `pb-1 ${isActive ? 'border-b-2 border-brass font-semibold' : 'text-soft hover:text-ink'}`
            }
          >
            {page.words}
          </NavLink>
        ))}
      </nav>
      <div className="ml-auto flex items-baseline gap-2.5 text-soft">
        {silentSince !== null && (
          <span role="alert" className="text-signal">
            No contact with the server since {new Date(silentSince).toTimeString().slice(0, 5)}; trying again
          </span>
        )}
        <Suspense fallback={null}>
          <Notifications zone={account.timeZone} />
        </Suspense>
        <button
          type="button"
          className="whitespace-nowrap hover:text-ink"
          aria-label="Search and commands"
          onClick={onSearch}
        >
          Search <kbd className="hidden font-sans text-xs sm:inline">:</kbd>
        </button>
        <span className="hidden items-baseline gap-2.5 lg:flex">
          <Suspense fallback={null}>
            <ThemeChoice />
          </Suspense>
          <span className="whitespace-nowrap">
            {account.name}, {account.role}
          </span>
        </span>
        <Suspense fallback={null}>
          <NarrowMenu account={account} onSignOut={onSignOut} />
        </Suspense>
      </div>
    </header>
  );
}
