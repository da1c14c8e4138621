// What people type for a goal ("60", "3h", "180s × 60", "20 h 12 m") to a count, and how it was read.
import { CoreError } from '../errors.ts';
import { countForHours, hoursForCount } from './goal-time.ts';

export interface ReadWish {
  /** null = open-ended. */
  readonly count: number | null;
  /** "60 × 180 s = 3.00 h" */
  readonly words: string;
}

const OPEN_ENDED = /^(open|open-ended|no end|∞)$/i;
const TIMES = /^(\d+(?:[.,]\d+)?)\s*s?\s*[×x*]\s*(\d+)$/i;
const HOURS = /^(?:(\d+(?:[.,]\d+)?)\s*h(?:ours?)?)?\s*(?:(\d+(?:[.,]\d+)?)\s*m(?:in)?)?$/i;
const COUNT = /^\d+$/;
const MAX_COUNT = 100_000;

/** A wish for a goal whose exposures last `exposureSec`.
 * @throws QUANTITY_UNREADABLE with what would be accepted */
export function parseWish(text: string, exposureSec: number): ReadWish {
  const plain = text.trim();
  if (OPEN_ENDED.test(plain)) return { count: null, words: 'open-ended: until dawn, every night' };
  const count = countOf(plain, exposureSec);
  if (count === null || !(count >= 0 && count <= MAX_COUNT)) {
    throw new CoreError(
      'QUANTITY_UNREADABLE',
      `"${plain}" can't be read; write a count like 60, a time like 3h or 2 h 30 m, or open`,
      { text },
    );
  }
  return { count, words: `${count} × ${exposureSec} s = ${hoursForCount(count, exposureSec).toFixed(2)} h` };
}

function countOf(plain: string, exposureSec: number): number | null {
  if (COUNT.test(plain)) return Number(plain);
  const times = TIMES.exec(plain);
  if (times) return Math.ceil((Number(times[1].replace(',', '.')) * Number(times[2])) / exposureSec - 1e-9);
  const hours = HOURS.exec(plain);
  if (!hours || (hours[1] === undefined && hours[2] === undefined)) return null;
  const inHours = Number((hours[1] ?? '0').replace(',', '.')) + Number((hours[2] ?? '0').replace(',', '.')) / 60;
  return countForHours(inHours, exposureSec);
}
