import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react';
import type { Account } from '@meridiem/contract';
import { Link } from 'react-router';
import { Choice } from '../ui/Choice.tsx';
import { PAGES } from './pages.ts';
import { THEMES, useTheme } from './theme.ts';

/** Paper, lamp or ember. */
export function ThemeChoice() {
  const [theme, setTheme] = useTheme();
  return (
    <Choice
      label="Theme"
      value={theme}
      options={THEMES.map((name) => ({ value: name, words: name }))}
      onChoose={(name) => setTheme(name as typeof theme)}
    />
  );
}

/** Everything of the line in one button. */
export const NarrowMenu = ({ account, onSignOut }: { account: Account; onSignOut: () => void }) => (
  <Menu as="div" className="lg:hidden">
    <MenuButton className="act">Menu</MenuButton>
    <MenuItems
      anchor="bottom end"
      className="z-50 min-w-[220px] border border-hairline bg-raised py-2 text-ink shadow-xl"
    >
      {PAGES.map((page) => (
        <MenuItem key={page.to}>
          <Link to={page.to} className="block px-4 py-2.5 text-base data-focus:bg-wash">
            {page.words}
          </Link>
        </MenuItem>
      ))}
      <MenuItem>
        <button
          type="button"
          className="block w-full cursor-pointer border-t border-hairline px-4 py-2.5 text-left text-base data-focus:bg-wash"
          onClick={onSignOut}
        >
          Sign out, {account.name}
        </button>
      </MenuItem>
    </MenuItems>
  </Menu>
);
