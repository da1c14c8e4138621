// What is under the hand runs ahead of the address: every step is drawn at once and written down when the hand rests.
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';

const REST_MS = 250;

/** @param settled what the address says; the same object as long as the address says the same
 * @param write puts changes into the address
 * @returns what is to be drawn now, and a way to change some of it */
export function useAhead<T extends object>(
  settled: T,
  write: (changes: Partial<T>) => void,
): [live: T, hold: (changes: Partial<T>) => void] {
  const [held, setHeld] = useState<Partial<T> | null>(null);
  const newest = useRef<{ held: Partial<T> | null; written: Partial<T> | null; write: typeof write }>({
    held: null,
    written: null,
    write,
  });
  useEffect(() => {
    newest.current.write = write;
  });
  const rest = useRef<ReturnType<typeof setTimeout>>(undefined);
  // The address has caught up with the hand and speaks alone again, unless the hand has moved on meanwhile.
  useEffect(() => {
    const { held: now, written } = newest.current;
    if (now !== written) return;
    newest.current.held = newest.current.written = null;
    setHeld(null);
  }, [settled]);
  useEffect(() => () => clearTimeout(rest.current), []);
  const hold = useCallback((changes: Partial<T>): void => {
    const next = { ...newest.current.held, ...changes };
    newest.current.held = next;
    setHeld(next);
    clearTimeout(rest.current);
    rest.current = setTimeout(() => {
      newest.current.written = next;
      newest.current.write(next);
    }, REST_MS);
  }, []);
  const live = useMemo(() => (held ? { ...settled, ...held } : settled), [settled, held]);
  return [live, hold];
}
