// The one table of limits: what each is, between what, how it is typed and said. Adding one touches this table, its rule and its test.
import { CoreError } from '../errors.ts';
import { DAY_MS } from '../units.ts';

export interface LimitRow {
  readonly name: string;
  readonly unit: string;
  /** What the number means, in a sentence. */
  readonly help: string;
  /** What a value must lie between to make sense. */
  readonly range: readonly [low: number, high: number];
  /** How it is typed and shown: a plain number, a clock time (minutes after midnight), or a date (days since 1970). */
  readonly typed: 'number' | 'clock' | 'date';
  /** What applies where nobody has said anything; null = off. A choice, not a fact. */
  readonly byDefault: number | null;
}

const FARTHEST_DAY = 80_000;
const CLOCK: readonly [number, number] = [0, 1439];
const DAYS: readonly [number, number] = [0, FARTHEST_DAY];

export const LIMIT_TABLE = {
  minAltitudeDeg: {
    name: 'Altitude at least',
    unit: '°',
    help: 'The target must be this high.',
    range: [0, 89],
    typed: 'number',
    byDefault: 30,
  },
  horizonMarginDeg: {
    name: 'Over the horizon',
    unit: '°',
    help: 'Clearance above the horizon profile.',
    range: [0, 45],
    typed: 'number',
    byDefault: 2,
  },
  sunAltitudeMaxDeg: {
    name: 'Sun no higher than',
    unit: '°',
    help: 'Any depth: −18 is astronomical night, −12 nautical.',
    range: [-30, 0],
    typed: 'number',
    byDefault: -18,
  },
  afterDuskMin: {
    name: 'Start after dusk by',
    unit: 'min',
    help: 'Minutes added after the sun has that depth; negative starts earlier.',
    range: [-240, 240],
    typed: 'number',
    byDefault: null,
  },
  beforeDawnMin: {
    name: 'End before dawn by',
    unit: 'min',
    help: 'Minutes kept free before the sun is back; negative goes on longer.',
    range: [-240, 240],
    typed: 'number',
    byDefault: null,
  },
  moonSeparationMinDeg: {
    name: 'Moon separation at least',
    unit: '°',
    help: 'Counts only while the moon is up and lit above its share.',
    range: [0, 180],
    typed: 'number',
    byDefault: null,
  },
  moonLitShareMin: {
    name: 'Ignore the Moon when less lit than',
    unit: 'share',
    help: 'A share from 0 to 1; with less of the Moon lit, the separation is not required.',
    range: [0, 1],
    typed: 'number',
    byDefault: 0.3,
  },
  moonlightToleranceMag: {
    name: 'Moonlight at most',
    unit: 'mag',
    help: 'By how much the moon may brighten the sky in this filter.',
    range: [0, 10],
    typed: 'number',
    byDefault: null,
  },
  moonAltitudeMaxDeg: {
    name: 'Moon altitude below',
    unit: '°',
    help: '0 means that the Moon has set.',
    range: [-90, 90],
    typed: 'number',
    byDefault: null,
  },
  hourAngleMaxHours: {
    name: 'Hour angle within',
    unit: 'h',
    help: 'Hours from the meridian, either side.',
    range: [0, 12],
    typed: 'number',
    byDefault: null,
  },
  zenithKeepOutDeg: {
    name: 'Zenith kept clear',
    unit: '°',
    help: 'No exposure closer to the zenith.',
    range: [0, 45],
    typed: 'number',
    byDefault: null,
  },
  notBeforeClockMin: {
    name: 'Not before',
    unit: '',
    help: 'Local time, written 22:00.',
    range: CLOCK,
    typed: 'clock',
    byDefault: null,
  },
  notAfterClockMin: {
    name: 'Not after',
    unit: '',
    help: 'Local time, written 03:30.',
    range: CLOCK,
    typed: 'clock',
    byDefault: null,
  },
  firstNightDay: {
    name: 'First night',
    unit: '',
    help: 'The evening it may begin on, written 3 Dec.',
    range: DAYS,
    typed: 'date',
    byDefault: null,
  },
  lastNightDay: {
    name: 'Last night',
    unit: '',
    help: 'The last evening it may be exposed on, written 3 Dec.',
    range: DAYS,
    typed: 'date',
    byDefault: null,
  },
  minRateShare: {
    name: 'Minimum signal rate',
    unit: 'of its best',
    help: 'Share of the target’s own best signal rate, 0 to 1.',
    range: [0, 1],
    typed: 'number',
    byDefault: 0.35,
  },
  minStretchMin: {
    name: 'Shortest stay',
    unit: 'min',
    help: 'Shorter stays are only planned when they finish something.',
    range: [0, 240],
    typed: 'number',
    byDefault: 20,
  },
} as const satisfies Readonly<Record<string, LimitRow>>;

export type LimitKey = keyof typeof LIMIT_TABLE;
export const LIMIT_KEYS = Object.keys(LIMIT_TABLE) as LimitKey[];
export const limitRow = (key: LimitKey): LimitRow => LIMIT_TABLE[key];

const MONTHS = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec'];
const two = (value: number): string => String(value).padStart(2, '0');
const sayNumber = (value: number): string => (value < 0 ? `−${-value}` : String(value));

/** A limit's value as it is typed, without its unit; "off" for null. */
export function typedLimit(key: LimitKey, value: number | null): string {
  if (value === null) return 'off';
  const { typed } = limitRow(key);
  if (typed === 'clock') return `${two(Math.floor(value / 60))}:${two(value % 60)}`;
  if (typed === 'number') return sayNumber(value);
  const date = new Date(value * DAY_MS);
  const month = MONTHS[date.getUTCMonth()];
  return `${date.getUTCDate()} ${month[0].toUpperCase()}${month.slice(1)} ${date.getUTCFullYear()}`;
}

/** A limit's value with its unit; "off" in words. */
export function limitText(key: LimitKey, value: number | null): string {
  const { unit } = limitRow(key);
  const text = typedLimit(key, value);
  return value === null || unit === '' ? text : `${text}${unit.startsWith('°') ? '' : ' '}${unit}`;
}

/** What is typed at a limit: null where it is switched off (empty or "off").
 * @param todayDay days since 1970 of tonight's date: a date without a year is the next such day, at most half a year back
 * @throws CoreError LIMIT_UNREADABLE, LIMIT_OUT_OF_RANGE with what would be accepted */
export function readLimit(key: LimitKey, text: string, todayDay: number): number | null {
  const plain = text.trim().replaceAll('−', '-').toLowerCase();
  if (plain === '' || plain === 'off') return null;
  const { typed, range, unit } = limitRow(key);
  const read = {
    number: () => readNumber(plain, unit),
    clock: () => readClock(plain),
    date: () => readDate(plain, todayDay),
  };
  const value = read[typed]();
  if (value === null) throw new CoreError('LIMIT_UNREADABLE', `"${text}" is ${WANTED[typed]}`, { text });
  const [low, high] = range;
  if (value < low || value > high)
    throw new CoreError(
      'LIMIT_OUT_OF_RANGE',
      `${typedLimit(key, value)} is outside ${typedLimit(key, low)} to ${typedLimit(key, high)}`,
      { value },
    );
  return value;
}

const WANTED: Readonly<Record<LimitRow['typed'], string>> = {
  number: 'no number; write one, or off',
  clock: 'no clock time; write one like 22:00, or off',
  date: 'no date; write one like 3 Dec, or off',
};

/** The unit may be typed as well. */
function readNumber(plain: string, unit: string): number | null {
  const [first] = unit.split(' ');
  const bare = (first !== '' && plain.endsWith(first) ? plain.slice(0, -first.length) : plain).trim().replace(',', '.');
  return bare === '' || Number.isNaN(Number(bare)) ? null : Number(bare);
}

function readClock(plain: string): number | null {
  const [, hour, minute] = /^(\d{1,2})[:.]?(\d{2})$/.exec(plain) ?? [];
  return Number(hour) < 24 && Number(minute) < 60 ? Number(hour) * 60 + Number(minute) : null;
}

/** "3 Dec", "3 December 2026", "2026-12-03". */
function readDate(plain: string, todayDay: number): number | null {
  const iso = /^(\d{4})-(\d{2})-(\d{2})$/.exec(plain);
  if (iso) return dayOf(Number(iso[1]), Number(iso[2]) - 1, Number(iso[3]));
  const [, day, name, year] = /^(\d{1,2})\.?\s*([a-z]{3,})\.?\s*(\d{4})?$/.exec(plain) ?? [];
  const month = MONTHS.findIndex((own) => name?.startsWith(own));
  if (month < 0) return null;
  if (year !== undefined) return dayOf(Number(year), month, Number(day));
  const today = new Date(todayDay * DAY_MS);
  const years = [today.getUTCFullYear() - 1, today.getUTCFullYear(), today.getUTCFullYear() + 1];
  const days = years.flatMap((one) => dayOf(one, month, Number(day)) ?? []);
  return days.find((one) => one >= todayDay - 183) ?? null;
}

/** null for a day that the month does not have. */
function dayOf(year: number, month: number, day: number): number | null {
  const date = new Date(Date.UTC(year, month, day));
  return date.getUTCMonth() === month && date.getUTCDate() === day ? date.getTime() / DAY_MS : null;
}
