// Changing what the address says, one choice after another.
import { useSearchParams } from 'react-router';

/** Values by key; null or nothing takes a key away. */
export type AddressChanges = Readonly<Record<string, string | null>>;

/** What the address says, and a way to change some of it.
 * Changes start from the address itself: two in quick succession come before the page has been drawn anew, and both hold.
 * @param replace whether going back skips what is changed */
export function useAddress({ replace = false } = {}): [URLSearchParams, (changes: AddressChanges) => void] {
  const [search, setSearch] = useSearchParams();
  const change = (changes: AddressChanges): void => {
    const next = new URLSearchParams(window.location.search);
    for (const [key, value] of Object.entries(changes)) {
      if (value) next.set(key, value);
      else next.delete(key);
    }
    setSearch(next, { replace });
  };
  return [search, change];
}
