// FITS headers from bytes: cards with their values, and where each data unit lies. Source: FITS Standard 4.0, sections 3–4.
import { CoreError } from '../errors.ts';

export type CardValue = string | number | boolean | null;

export interface FitsCard {
  readonly keyword: string;
  readonly value: CardValue;
  readonly comment: string;
}

/** One header with its data unit. Offsets and lengths in bytes of the uncompressed file. */
export interface FitsUnit {
  readonly cards: readonly FitsCard[];
  readonly dataStart: number;
  /** As announced by the header, without padding. */
  readonly dataLength: number;
  /** What the file holds of it. */
  readonly dataPresent: number;
}

export interface FitsHeaders {
  readonly units: readonly FitsUnit[];
  /** What is irregular about the file, in words. */
  readonly doubts: readonly string[];
}

const BLOCK = 2880;
const CARD = 80;
const MAX_CARDS = 20_000;
const MAX_UNITS = 64;
/** Source: FITS Standard 4.0, section 4.4.1.1. */
const MAX_AXES = 999;

/** Reads every header that lies inside `bytes`.
 * @param bytes the file's beginning, long enough for its headers; gzip must be undone before
 * @param fileLength of the whole uncompressed file, where `bytes` is only its beginning
 * @throws FITS_UNREADABLE where it is empty, no FITS file, or a header never ends */
export function readFitsHeaders(bytes: Uint8Array, fileLength = bytes.length): FitsHeaders {
  if (fileLength === 0) throw new CoreError('FITS_UNREADABLE', 'The file is empty', {});
  if (asText(bytes, 0, 6) !== 'SIMPLE')
    throw new CoreError('FITS_UNREADABLE', 'This is no FITS file: it does not begin with SIMPLE', {});
  const units: FitsUnit[] = [];
  const doubts: string[] = [];
  let at = 0;
  while (at + CARD <= bytes.length && units.length < MAX_UNITS) {
    const unit = readUnit(bytes, at, fileLength, doubts);
    if (!unit) break;
    units.push(unit);
    at = unit.dataStart + Math.ceil(unit.dataLength / BLOCK) * BLOCK;
  }
  return { units, doubts };
}

/** The first card of that name; standard keywords are given without spaces, HIERARCH ones with them. */
export const cardOf = (cards: readonly FitsCard[], keyword: string): FitsCard | undefined =>
  cards.find((card) => card.keyword === keyword);

function readUnit(bytes: Uint8Array, start: number, fileLength: number, doubts: string[]): FitsUnit | null {
  const first = start === 0 ? 'SIMPLE' : 'XTENSION';
  if (asText(bytes, start, first.length) !== first) {
    if (start < fileLength) doubts.push('something that is no header follows the last data unit');
    return null;
  }
  const { lines, end } = linesUntilEnd(bytes, start);
  const cards = cardsFrom(lines, doubts);
  const dataLength = announcedLength(cards);
  const padded = start + Math.ceil((end - start) / BLOCK) * BLOCK;
  const isUnpadded = end !== padded && fileLength === end + dataLength && dataLength > 0;
  if (isUnpadded) doubts.push('the header is not padded to 2880 bytes; the data begin right after END');
  const dataStart = isUnpadded ? end : padded;
  const dataPresent = Math.max(0, Math.min(dataLength, fileLength - dataStart));
  if (dataPresent < dataLength)
    doubts.push(`the data are shorter than announced: ${dataPresent} of ${dataLength} bytes`);
  return { cards, dataStart, dataLength, dataPresent };
}

function linesUntilEnd(bytes: Uint8Array, start: number): { lines: string[]; end: number } {
  const lines: string[] = [];
  for (let at = start; at + CARD <= bytes.length; at += CARD) {
    const line = asText(bytes, at, CARD);
    if (/^END {5}/.test(line)) return { lines, end: at + CARD };
    lines.push(line);
    if (lines.length > MAX_CARDS)
      throw new CoreError('FITS_UNREADABLE', `The header has more than ${MAX_CARDS} cards`, {});
  }
  throw new CoreError('FITS_UNREADABLE', 'The header has no END card', {});
}

function cardsFrom(lines: readonly string[], doubts: string[]): FitsCard[] {
  const cards: FitsCard[] = [];
  const seen = new Map<string, CardValue>();
  for (const line of lines) {
    if (line.startsWith('CONTINUE')) {
      continueLast(cards, line);
      continue;
    }
    const card = cardFrom(line);
    if (!card) continue;
    if (/[^\x20-\x7e]/.test(line)) doubts.push(`${card.keyword} holds characters outside ASCII`);
    const before = seen.get(card.keyword);
    if (before !== undefined && before !== card.value)
      doubts.push(`${card.keyword} appears twice, as ${String(before)} and ${String(card.value)}; the first is used`);
    if (before === undefined) seen.set(card.keyword, card.value);
    cards.push(card);
  }
  return cards;
}

function cardFrom(line: string): FitsCard | null {
  const hierarch = /^HIERARCH +([^=]+?) *= ?(.*)$/.exec(line);
  if (hierarch) return { keyword: hierarch[1].toUpperCase(), ...valueOf(hierarch[2]) };
  if (line.slice(8, 10) !== '= ') return null;
  return { keyword: line.slice(0, 8).trim().toUpperCase(), ...valueOf(line.slice(10)) };
}

/** A long text goes on in CONTINUE cards while it ends in "&". */
function continueLast(cards: FitsCard[], line: string): void {
  const last = cards.at(-1);
  if (!last || typeof last.value !== 'string' || !last.value.endsWith('&')) return;
  const { value, comment } = valueOf(line.slice(8));
  cards[cards.length - 1] = {
    keyword: last.keyword,
    value: last.value.slice(0, -1) + (typeof value === 'string' ? value : ''),
    comment: [last.comment, comment].filter(Boolean).join(' '),
  };
}

function valueOf(text: string): { value: CardValue; comment: string } {
  const quoted = /^\s*'((?:[^']|'')*)'\s*(?:\/\s*(.*))?$/.exec(text.trimEnd());
  if (quoted) return { value: quoted[1].replaceAll("''", "'").trimEnd(), comment: (quoted[2] ?? '').trim() };
  const [plain, ...rest] = text.split('/');
  const comment = rest.join('/').trim();
  const word = plain.trim();
  if (word === 'T' || word === 'F') return { value: word === 'T', comment };
  if (word === '') return { value: null, comment };
  const number = Number(word.replace(/[dD](?=[+-]?\d+$)/, 'E'));
  return { value: Number.isFinite(number) ? number : word.replace(/^'/, '').trim(), comment };
}

/** Bytes of a data unit without padding. Source: FITS Standard 4.0, eq. 1 and 2. */
function announcedLength(cards: readonly FitsCard[]): number {
  const number = (keyword: string, otherwise: number): number => {
    const value = cardOf(cards, keyword)?.value;
    return typeof value === 'number' ? value : otherwise;
  };
  const axes = number('NAXIS', 0);
  if (!(axes > 0)) return 0;
  if (!Number.isInteger(axes) || axes > MAX_AXES)
    throw new CoreError('FITS_UNREADABLE', `NAXIS ${axes} is no number of axes from 0 to ${MAX_AXES}`, {});
  let elements = 1;
  for (let axis = 1; axis <= axes; axis++) elements *= number(`NAXIS${axis}`, 0);
  const length = (Math.abs(number('BITPIX', 8)) / 8) * number('GCOUNT', 1) * (number('PCOUNT', 0) + elements);
  return Math.max(0, Math.min(length, Number.MAX_SAFE_INTEGER));
}

/** Bytes that are no letter are read as spaces: the standard allows none of them, and some writers pad with them. */
function asText(bytes: Uint8Array, start: number, length: number): string {
  let text = '';
  for (let i = start; i < Math.min(start + length, bytes.length); i++)
    text += String.fromCharCode(bytes[i] < SPACE ? SPACE : bytes[i]);
  return text;
}
const SPACE = 32;
