// When an exposure began, from the cards that writers use for it.
import { DateTime } from 'luxon';
import type { UtcMs } from '../units.ts';
import { DAY_MS, HOUR_MS, MINUTE_MS } from '../units.ts';
import type { FitsCard } from './fits-header.ts';
import { cardOf } from './fits-header.ts';

export interface FrameStart {
  readonly utcMs: UtcMs;
  readonly stepMs: number;
}

const UNIX_EPOCH_MJD = 40_587;
const TIME_CARDS = ['TIME-OBS', 'UT', 'UTC', 'UTC-OBS', 'UTSTART'];

/** @param timeZone of the observatory, for writers that put local time into DATE-OBS
 * @param doubts gets a line for each guess */
export function startOf(cards: readonly FitsCard[], timeZone: string, doubts: string[]): FrameStart | null {
  const written = startAsWritten(cards, timeZone, doubts);
  return written && inUtc(written, cards, doubts);
}

/** Seconds that a time scale runs ahead of UTC since 2017. Source: IERS Bulletin C 52; TT = TAI + 32.184 s. */
const AHEAD_OF_UTC_SEC: Readonly<Record<string, number>> = {
  TAI: 37,
  IAT: 37,
  TT: 69.184,
  TDT: 69.184,
  ET: 69.184,
  TDB: 69.184,
  TCB: 69.184,
  GPS: 18,
};

function inUtc(start: FrameStart, cards: readonly FitsCard[], doubts: string[]): FrameStart {
  const scale = String(cardOf(cards, 'TIMESYS')?.value ?? '')
    .trim()
    .toUpperCase();
  const aheadSec = AHEAD_OF_UTC_SEC[scale];
  if (aheadSec === undefined) return start;
  doubts.push(`TIMESYS ${scale} runs ${aheadSec} s ahead of UTC; turned to UTC`);
  return { ...start, utcMs: Math.round(start.utcMs - aheadSec * 1000) };
}

/** Cards for the beginning come first; the middle is half an exposure later. Source: FITS Standard 4.0, section 9.5. */
function startAsWritten(cards: readonly FitsCard[], timeZone: string, doubts: string[]): FrameStart | null {
  const beginning = ['DATE-BEG', 'DATE-OBS'].map((keyword) => cardOf(cards, keyword));
  const card = beginning.find((found) => typeof found?.value === 'string' && found.value.trim() !== '');
  if (!card) {
    const middle = cardOf(cards, 'DATE-AVG');
    if (typeof middle?.value === 'string' && middle.value.trim() !== '')
      return startOfMiddle(middle, cards, timeZone, doubts);
  }
  return startFrom(card ?? cardOf(cards, 'DATE-OBS'), cards, timeZone, doubts);
}

function startOfMiddle(
  middle: FitsCard,
  cards: readonly FitsCard[],
  timeZone: string,
  doubts: string[],
): FrameStart | null {
  const at = startFrom(middle, cards, timeZone, doubts);
  const lengthSec = ['XPOSURE', 'EXPTIME', 'EXPOSURE']
    .map((keyword) => cardOf(cards, keyword)?.value)
    .find((value) => typeof value === 'number');
  if (!at || typeof lengthSec !== 'number') return null;
  doubts.push('DATE-AVG is the middle; the start is half an exposure before');
  return { ...at, utcMs: Math.round(at.utcMs - lengthSec * 500) };
}

function startFrom(
  card: FitsCard | undefined,
  cards: readonly FitsCard[],
  timeZone: string,
  doubts: string[],
): FrameStart | null {
  const fromDays = startFromDays(cards);
  const written = typeof card?.value === 'string' ? card.value.trim() : '';
  if (!card || written === '') return fromDays;
  const text = withTime(withFourDigits(written, doubts), cards, doubts);
  if (text === null) return fromDays;
  const asUtc = DateTime.fromISO(text, { zone: 'utc' });
  if (!asUtc.isValid) {
    doubts.push(`DATE-OBS "${written}" can't be read`);
    return fromDays;
  }
  const stepMs = stepOf(text);
  const saysLocal = /local/i.test(card.comment) || /local/i.test(String(cardOf(cards, 'TIMESYS')?.value ?? ''));
  const offsetMs = fromDays ? zoneOffset(asUtc.toMillis() - fromDays.utcMs) : 0;
  if (offsetMs !== 0) {
    doubts.push(`DATE-OBS runs ${(offsetMs / HOUR_MS).toFixed(2)} h ahead of the Julian date, as local time does`);
    return { utcMs: asUtc.toMillis() - offsetMs, stepMs };
  }
  if (saysLocal && !fromDays) {
    doubts.push(`DATE-OBS is local time; read in ${timeZone}`);
    return { utcMs: DateTime.fromISO(text, { zone: timeZone }).toMillis(), stepMs };
  }
  return { utcMs: asUtc.toMillis(), stepMs };
}

/** "23/11/26" and "23/11/2026", the form before 1997. Source: FITS Standard 4.0, section 9.1.1. */
function withFourDigits(written: string, doubts: string[]): string {
  const old = /^(\d{2})\/(\d{2})\/(\d{2}|\d{4})(?:T(.*))?$/.exec(written);
  if (!old) return written;
  const [, day, month, year, time] = old;
  if (year.length === 4) return `${year}-${month}-${day}${time ? `T${time}` : ''}`;
  const century = Number(year) >= 70 ? '19' : '20';
  doubts.push(`DATE-OBS has a two-digit year, read as ${century}${year}`);
  return `${century}${year}-${month}-${day}${time ? `T${time}` : ''}`;
}

function withTime(date: string, cards: readonly FitsCard[], doubts: string[]): string | null {
  const joined = date.replace(/^(\d{4}-\d{2}-\d{2})\s+(?=\d)/, '$1T');
  if (joined.includes('T')) return joined.replace(/Z$/, '');
  const card = TIME_CARDS.map((keyword) => cardOf(cards, keyword)).find((found) => typeof found?.value === 'string');
  if (card) return `${date}T${String(card.value).trim()}`;
  doubts.push('DATE-OBS has no time of day and no other card gives one');
  return null;
}

function startFromDays(cards: readonly FitsCard[]): FrameStart | null {
  const mjd = cardOf(cards, 'MJD-BEG')?.value ?? cardOf(cards, 'MJD-OBS')?.value;
  const jd = cardOf(cards, 'JD')?.value ?? cardOf(cards, 'JD-OBS')?.value;
  const days = typeof mjd === 'number' ? mjd : typeof jd === 'number' ? jd - 2_400_000.5 : null;
  return days === null ? null : { utcMs: Math.round((days - UNIX_EPOCH_MJD) * DAY_MS), stepMs: 1000 };
}

const stepOf = (text: string): number => {
  const decimals = /\.(\d+)/.exec(text)?.[1].length ?? 0;
  return Math.max(1, 1000 / 10 ** decimals);
};

/** The difference as a whole number of quarter hours, where it looks like a time zone's; else 0. */
function zoneOffset(differenceMs: number): number {
  const offsetMs = Math.round(differenceMs / (15 * MINUTE_MS)) * 15 * MINUTE_MS;
  const isZone = Math.abs(offsetMs) >= HOUR_MS / 2 && Math.abs(offsetMs) <= 14 * HOUR_MS;
  return isZone && Math.abs(differenceMs - offsetMs) < 5 * MINUTE_MS ? offsetMs : 0;
}
