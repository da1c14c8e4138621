// What people type for a place on the sky to degrees, and back to text. An empty place is none, never zero.
import { CoreError } from '../errors.ts';
import type { SkyPosition } from '../sky/site.ts';
import { wrap360 } from '../units.ts';

const NUMBER = String.raw`\d+(?:[.,]\d+)?`;
const SEXAGESIMAL = new RegExp(
  String.raw`^([+-]?)\s*(${NUMBER})(?:\s*[hd°:]\s*|\s+|$)(?:(${NUMBER})(?:\s*[m'′:]\s*|\s+|$)(?:(${NUMBER})\s*(?:s|"|″)?)?)?$`,
  'i',
);

/** Right ascension: "5h 34m 32s", "05:34:32", "5 34.5" or, with a degree sign or a "d", degrees.
 * @returns degrees, [0, 360)
 * @throws COORDINATE_UNREADABLE, COORDINATE_OUT_OF_RANGE */
export function parseRightAscensionDeg(text: string): number {
  const inDegrees = /[°d]/i.test(text) || isPlainDegrees(text);
  const value = sexagesimal(text, 'right ascension') * (inDegrees ? 1 : 15);
  if (!(value >= 0 && value < 360)) {
    throw new CoreError(
      'COORDINATE_OUT_OF_RANGE',
      `Right ascension "${text.trim()}" lies outside 0 h to 24 h (0° to 360°)`,
      { text },
    );
  }
  return value;
}

/** Declination: "−31 12 30", "-31:12:30", "−31.2", "31 12 30 S" (a capital; a small s means seconds).
 * @returns degrees, [−90, 90]
 * @throws COORDINATE_UNREADABLE, COORDINATE_OUT_OF_RANGE */
export function parseDeclinationDeg(text: string): number {
  const hemisphere = /[NS]$/.exec(text.trim())?.[0];
  const value = sexagesimal(text.trim().replace(/[NS]$/, ''), 'declination') * (hemisphere === 'S' ? -1 : 1);
  if (!(value >= -90 && value <= 90)) {
    throw new CoreError('COORDINATE_OUT_OF_RANGE', `Declination "${text.trim()}" lies outside −90° to +90°`, { text });
  }
  return value;
}

/** Both coordinates or neither.
 * @returns null where both texts are empty
 * @throws COORDINATE_UNREADABLE where only one is given */
export function parsePosition(raText: string, decText: string): SkyPosition | null {
  const [ra, dec] = [raText.trim(), decText.trim()];
  if (ra === '' && dec === '') return null;
  if (ra === '' || dec === '') {
    throw new CoreError(
      'COORDINATE_UNREADABLE',
      `The ${ra === '' ? 'right ascension' : 'declination'} is missing: give both coordinates or neither`,
      {},
    );
  }
  return { raDeg: parseRightAscensionDeg(ra), decDeg: parseDeclinationDeg(dec) };
}

/** "05h 34m 32.0s" */
export function formatRightAscension(raDeg: number): string {
  const { whole, minutes, seconds } = split(wrap360(raDeg) / 15, 24, 1);
  return `${pad(whole)}h ${pad(minutes)}m ${seconds.toFixed(1).padStart(4, '0')}s`;
}

/** "−31° 12′ 30″", with a true minus sign. */
export function formatDeclination(decDeg: number): string {
  const { whole, minutes, seconds } = split(Math.abs(decDeg), Infinity, 0);
  return `${decDeg < 0 ? '−' : '+'}${pad(whole)}° ${pad(minutes)}′ ${pad(seconds)}″`;
}

/** A lone number with decimals and past 24 can only be degrees. */
const isPlainDegrees = (text: string): boolean => /^\s*\d+(\.\d+)?\s*$/.test(text) && Number(text) >= 24;

function sexagesimal(text: string, what: string): number {
  const match = SEXAGESIMAL.exec(text.trim().replaceAll('−', '-').replaceAll('’', "'"));
  if (!match)
    throw new CoreError(
      'COORDINATE_UNREADABLE',
      `"${text.trim()}" can't be read as a ${what}; write it like 05 34 32 or −31 12 30`,
      { text },
    );
  const [whole, minutes, seconds] = [match[2], match[3], match[4]].map((part) =>
    Number((part ?? '0').replace(',', '.')),
  );
  if (!(minutes < 60 && seconds < 60)) {
    throw new CoreError('COORDINATE_OUT_OF_RANGE', `In "${text.trim()}" minutes and seconds must be below 60`, {
      text,
    });
  }
  const sign = match[1] === '-' ? -1 : 1;
  return sign * (whole + minutes / 60 + seconds / 3600);
}

function split(value: number, wrapAt: number, decimals: number) {
  const unit = 10 ** decimals;
  const total = Math.round(value * 3600 * unit) / unit;
  const whole = Math.floor(total / 3600);
  const minutes = Math.floor((total - whole * 3600) / 60);
  return { whole: whole % wrapAt, minutes, seconds: total - whole * 3600 - minutes * 60 };
}

const pad = (value: number): string => String(Math.round(value)).padStart(2, '0');
