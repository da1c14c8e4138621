// Numbers as people type them.

/** A number as people type it, with comma, true minus or a hemisphere letter.
 * @throws Error with what would be accepted */
export function typedNumber(text: string, what: string): number {
  const plain = text.trim().replaceAll('−', '-').replace(',', '.');
  const hemisphere = /^([\d.]+)\s*°?\s*([NSEW])$/i.exec(plain);
  const value = hemisphere ? Number(hemisphere[1]) * (/[SW]/i.test(hemisphere[2]) ? -1 : 1) : Number(plain);
  if (plain === '' || Number.isNaN(value)) throw new Error(`"${text}" is no ${what}; write a number like 12.5`);
  return value;
}

/** Minutes after midnight from a time like 17:00. */
export function typedClockMin(text: string): number {
  const read = /^(\d{1,2})[:.]?(\d{2})$/.exec(text.trim());
  const [hour, minute] = [Number(read?.[1]), Number(read?.[2])];
  if (!(hour < 24 && minute < 60)) throw new Error(`"${text}" is no time; write one like 17:00`);
  return 60 * hour + minute;
}

const MONTHS = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec'];

/** A date from "3 Dec", "Thu 3 December 2026", "3.12.2026" or "2026-12-03"; without its year the one nearest to a day.
 * @param near ISO date
 * @returns ISO date, null where the text is empty
 * @throws Error with what would be accepted */
export function typedDate(text: string, near: string): string | null {
  const plain = text.trim().toLowerCase();
  if (plain === '') return null;
  const parts =
    partsOf(/^(?<year>\d{4})-(?<month>\d{1,2})-(?<day>\d{1,2})$/, plain) ??
    partsOf(/^(?:[a-z]{2,9},?\s+)?(?<day>\d{1,2})\.?\s*(?<name>[a-z]{3,9})\.?(?:\s+(?<year>\d{4}))?$/, plain) ??
    partsOf(/^(?<day>\d{1,2})\.\s*(?<month>\d{1,2})\.\s*(?<year>\d{4})?$/, plain);
  const years = parts?.year ? [parts.year] : [-1, 0, 1].map((step) => Number(near.slice(0, 4)) + step);
  const dates = parts ? years.flatMap((year) => isoDate(year, parts.month, parts.day) ?? []) : [];
  if (dates.length === 0) throw new Error(`"${text.trim()}" is no date; write one like 3 Dec or 3 Dec 2026`);
  const distance = (date: string): number => Math.abs(Date.parse(date) - Date.parse(near));
  return dates.reduce((best, date) => (distance(date) < distance(best) ? date : best));
}

interface DateParts {
  readonly year: number | null;
  readonly month: number;
  readonly day: number;
}

function partsOf(pattern: RegExp, text: string): DateParts | null {
  const groups = pattern.exec(text)?.groups;
  if (!groups) return null;
  const month = groups.name ? MONTHS.findIndex((name) => groups.name.startsWith(name)) + 1 : Number(groups.month);
  return { year: groups.year ? Number(groups.year) : null, month, day: Number(groups.day) };
}

/** Null where the calendar has no such day. */
function isoDate(year: number, month: number, day: number): string | null {
  const date = new Date(Date.UTC(year, month - 1, day));
  return date.getUTCMonth() === month - 1 && date.getUTCDate() === day ? date.toISOString().slice(0, 10) : null;
}
