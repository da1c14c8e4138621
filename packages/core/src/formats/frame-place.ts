// Where a header says the telescope pointed and from where, on J2000.0 axes: what stands there as a default is no position.
import { toJ2000 } from '../sky/frame-of-date.ts';
import type { SkyPosition } from '../sky/site.ts';
import { parseDeclinationDeg, parseRightAscensionDeg } from '../targets/coordinates.ts';
import type { UtcMs } from '../units.ts';
import type { FitsCard } from './fits-header.ts';
import { cardOf } from './fits-header.ts';
import type { HeaderReader } from './header-reader.ts';
import { firstNumber, headerReader } from './header-reader.ts';

/** Whether CTYPE1 and CTYPE2 are right ascension and declination in any projection; cards without them are taken for it. */
export function isSkyProjection(cards: readonly FitsCard[]): boolean {
  const { text } = headerReader(cards);
  const [a, b] = [text('CTYPE1'), text('CTYPE2')];
  if (a === null && b === null) return true;
  return /^RA\b|^RA-/.test(a ?? '') && /^DEC\b|^DEC-/.test(b ?? '');
}

/** @param atUtcMs the moment of the frame, for places given at its own equinox; null where it is unknown */
export function pointingOf(cards: readonly FitsCard[], atUtcMs: UtcMs | null, doubts: string[]): SkyPosition | null {
  const found = isWritten(cards, doubts);
  if (found === null) return null;
  if (found.raDeg === 0 && found.decDeg === 0) {
    doubts.push('the position is 0, 0, as a program writes that knows none; it is unknown');
    return null;
  }
  return asJ2000(found, cards, atUtcMs, doubts);
}

function isWritten(cards: readonly FitsCard[], doubts: string[]): SkyPosition | null {
  const fallback = isSkyProjection(cards);
  const ra = cardOf(cards, 'RA') ?? (fallback ? cardOf(cards, 'CRVAL1') : undefined);
  const decDeg = declinationOf(cardOf(cards, 'DEC') ?? (fallback ? cardOf(cards, 'CRVAL2') : undefined));
  if (ra && decDeg !== null) {
    const raDeg = rightAscensionOf(ra, objectRightAscension(cards), doubts);
    if (raDeg !== null) return { raDeg, decDeg };
  }
  const [objectRa, objectDec] = [objectRightAscension(cards), declinationOf(cardOf(cards, 'OBJCTDEC'))];
  return objectRa !== null && objectDec !== null ? { raDeg: objectRa, decDeg: objectDec } : null;
}

/** Half a year of precession is 25″: what lies nearer to 2000 is 2000. */
const J2000_WITHIN_YEARS = 0.5;
const MS_A_YEAR = 365.25 * 86_400_000;

/** A place at another equinox, turned to J2000.0 by precession and nutation; the doubt says so. */
export function asJ2000(
  position: SkyPosition,
  cards: readonly FitsCard[],
  atUtcMs: UtcMs | null,
  doubts: string[],
): SkyPosition | null {
  const header = headerReader(cards);
  const year = equinoxYear(header, atUtcMs);
  if (year === 'unknown') {
    doubts.push('the position is for the equinox of its date, and the date is unknown; so is the position');
    return null;
  }
  if (Math.abs(year - 2000) < J2000_WITHIN_YEARS) return position;
  doubts.push(`the position is for the equinox ${year.toFixed(1)}; turned to J2000`);
  return toJ2000(position, Date.UTC(2000, 0, 1, 12) + (year - 2000) * MS_A_YEAR);
}

function equinoxYear(header: HeaderReader, atUtcMs: UtcMs | null): number | 'unknown' {
  const words = `${header.text('EQUINOX') ?? header.text('EPOCH') ?? ''} ${header.text('RADESYS') ?? header.text('RADECSYS') ?? ''}`;
  if (/jnow|date|apparent|gappt|appt/i.test(words))
    return atUtcMs === null ? 'unknown' : 2000 + (atUtcMs - Date.UTC(2000, 0, 1, 12)) / MS_A_YEAR;
  const written = header.text('EQUINOX') ?? header.text('EPOCH');
  const year = written === null ? NaN : Number(written.replace(/^[JB]/i, ''));
  if (Number.isFinite(year) && year > 1800 && year < 2200) return year;
  return /FK4/i.test(words) ? 1950 : 2000;
}

/** Where the telescope stood, as written; null where it is not. */
export function siteOf(cards: readonly FitsCard[]): { latitudeDeg: number; longitudeDeg: number } | null {
  const header = headerReader(cards);
  const read = (names: readonly string[]): number | null => {
    const number = firstNumber(header, names);
    if (number !== null) return number;
    const text = names.map(header.text).find((found) => found !== null);
    return text ? readOrNull(() => parseSigned(text)) : null;
  };
  const latitudeDeg = read(['SITELAT', 'OBSGEO-B', 'LAT-OBS', 'LATITUDE', 'OBSLAT']);
  const longitudeDeg = read(['SITELONG', 'OBSGEO-L', 'LONG-OBS', 'LONGITUD', 'OBSLONG']);
  if (latitudeDeg === null || longitudeDeg === null || Math.abs(latitudeDeg) > 90) return null;
  if (latitudeDeg === 0 && longitudeDeg === 0) return null;
  return { latitudeDeg, longitudeDeg: longitudeDeg > 180 ? longitudeDeg - 360 : longitudeDeg };
}

/** "-31 12 30", "31:12:30 S", "138 30 E" */
function parseSigned(text: string): number {
  const [degrees, minutes = 0, seconds = 0] = (text.match(/[\d.]+/g) ?? ['x']).map(Number);
  const value = degrees + minutes / 60 + seconds / 3600;
  if (!Number.isFinite(value)) throw new Error('no angle');
  return /^\s*[-−]|[SW]\s*$/i.test(text) ? -value : value;
}

const objectRightAscension = (cards: readonly FitsCard[]): number | null => {
  const card = cardOf(cards, 'OBJCTRA');
  return card ? readOrNull(() => parseRightAscensionDeg(asHours(String(card.value)))) : null;
};

/** A bare number is degrees unless its comment, or a second card beside it, says hours. */
function rightAscensionOf(card: FitsCard, otherRaDeg: number | null, doubts: string[]): number | null {
  if (typeof card.value === 'string') return readOrNull(() => parseRightAscensionDeg(asHours(card.value as string)));
  if (typeof card.value !== 'number') return null;
  const inHours = card.value * 15;
  const isNear = (raDeg: number): boolean => otherRaDeg !== null && Math.abs(raDeg - otherRaDeg) < 1;
  const saysHours = /hour|\bh\b/i.test(card.comment) && !/deg/i.test(card.comment);
  if (card.value < 24 && (saysHours || (isNear(inHours) && !isNear(card.value)))) return inHours;
  if (card.value < 24 && card.value !== 0 && !/deg/i.test(card.comment) && !isNear(card.value))
    doubts.push(`RA ${card.value} could be hours; it is taken for degrees`);
  return card.value >= 0 && card.value < 360 ? card.value : null;
}

/** Sexagesimal text is hours; "83.6" as text is degrees like the number would be. */
const asHours = (text: string): string => (/^\s*\d+\.\d+\s*$/.test(text) ? `${text.trim()}°` : text);

function declinationOf(card: FitsCard | undefined): number | null {
  if (!card) return null;
  if (typeof card.value === 'number') return Math.abs(card.value) <= 90 ? card.value : null;
  return typeof card.value === 'string' ? readOrNull(() => parseDeclinationDeg(card.value as string)) : null;
}

function readOrNull(read: () => number): number | null {
  try {
    return read();
  } catch {
    return null;
  }
}
