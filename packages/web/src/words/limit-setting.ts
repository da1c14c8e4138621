// What is typed at a limit, as a setting.
import type { LimitKey } from '@meridiem/core';
import { DAY_MS, readLimit } from '@meridiem/core';

const today = (): number => Math.floor(Date.now() / DAY_MS);

/** Empty or "off" switches a limit off; anything else must be what the limit takes: 35, 22:00, 3 Dec.
 * @throws Error with what would be accepted */
export function settingOf(key: LimitKey, text: string): { value: number } | { off: true } {
  const value = readLimit(key, text, today());
  return value === null ? { off: true } : { value };
}

/** The value that a text stands for while it is typed; undefined while it can't be read. */
export function proposedOf(key: LimitKey, text: string): number | null | undefined {
  try {
    return readLimit(key, text, today());
  } catch {
    return undefined;
  }
}
