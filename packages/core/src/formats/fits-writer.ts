// One picture as a FITS file: sixteen-bit pixels with their header, padded to whole blocks.
// Source: FITS standard 4.0, sections 4 and 5.

const CARD = 80;
const BLOCK = 2880;
const KEYWORD_LENGTH = 8;
const VALUE_END = 30;
/** Unsigned sixteen-bit numbers are stored shifted by this. */
const ZERO = 32_768;

export interface WrittenCard {
  readonly keyword: string;
  readonly value: string | number | boolean;
  readonly comment?: string;
}

export interface WrittenPicture {
  readonly widthPx: number;
  readonly heightPx: number;
  /** Row by row, the bottom row of the sky first. */
  readonly pixels: Uint16Array;
}

/** @throws RangeError for a keyword or text that no header can hold */
export function writeFits({ widthPx, heightPx, pixels }: WrittenPicture, cards: readonly WrittenCard[]): Uint8Array {
  const header = [
    { keyword: 'SIMPLE', value: true },
    { keyword: 'BITPIX', value: 16 },
    { keyword: 'NAXIS', value: 2 },
    { keyword: 'NAXIS1', value: widthPx },
    { keyword: 'NAXIS2', value: heightPx },
    { keyword: 'BZERO', value: ZERO },
    { keyword: 'BSCALE', value: 1 },
    ...cards,
  ].map(cardText);
  const text = `${header.join('')}${'END'.padEnd(CARD)}`;
  const headerBytes = Math.ceil(text.length / BLOCK) * BLOCK;
  const bytes = new Uint8Array(headerBytes + Math.ceil((2 * pixels.length) / BLOCK) * BLOCK);
  bytes.set(new TextEncoder().encode(text.padEnd(headerBytes)));
  const view = new DataView(bytes.buffer, headerBytes);
  for (let i = 0; i < pixels.length; i++) view.setInt16(2 * i, pixels[i] - ZERO, false);
  return bytes;
}

function cardText({ keyword, value, comment }: WrittenCard): string {
  if (!/^[A-Z0-9_-]{1,8}$/.test(keyword)) throw new RangeError(`"${keyword}" is no FITS keyword`);
  const written =
    typeof value === 'string' ? textValue(value) : numberValue(value).padStart(VALUE_END - CARD_VALUE_START);
  const card = `${keyword.padEnd(KEYWORD_LENGTH)}= ${written}${comment ? ` / ${plain(comment)}` : ''}`;
  if (typeof value === 'string' && card.length > CARD && written.length > CARD - CARD_VALUE_START)
    throw new RangeError(`The text of ${keyword} is too long for a card`);
  return card.slice(0, CARD).padEnd(CARD);
}

const CARD_VALUE_START = KEYWORD_LENGTH + 2;
const textValue = (text: string): string => `'${plain(text).replaceAll("'", "''").padEnd(KEYWORD_LENGTH)}'`;
/** Headers hold printable ASCII alone; what is not becomes a question mark. */
const plain = (text: string): string =>
  text
    .normalize('NFKD')
    .replace(/[̀-ͯ]/g, '')
    .replace(/[^ -~]/g, '?');

function numberValue(value: number | boolean): string {
  if (typeof value === 'boolean') return value ? 'T' : 'F';
  if (!Number.isFinite(value)) throw new RangeError('A header holds finite numbers alone');
  return String(value).toUpperCase();
}
