// The binary serializations of VOTable, read. Source: IVOA Recommendation VOTable Format Definition 1.4, sections 5.3 (BINARY) and 5.4 (BINARY2).
import { CoreError } from '../errors.ts';

export interface BinaryField {
  readonly datatype: string;
  /** As it stands in the field: a count, "*", "8*", or nothing for one value. */
  readonly arraysize: string | undefined;
}

interface Reader {
  readonly view: DataView;
  at: number;
}

const BYTES: Readonly<Record<string, number>> = {
  boolean: 1,
  unsignedByte: 1,
  char: 1,
  short: 2,
  unicodeChar: 2,
  int: 4,
  float: 4,
  long: 8,
  double: 8,
};

/** @returns for each row its cells as text, in the fields' order; nothing is an empty text
 * @throws CoreError TABLE_UNREADABLE where the stream ends within a row, or a field has a type that no ledger column has */
export function readBinaryRows(
  base64: string,
  fields: readonly BinaryField[],
  { hasNullFlags }: { hasNullFlags: boolean },
): string[][] {
  const unknown = fields.find(({ datatype }) => BYTES[datatype] === undefined);
  if (unknown) throw unreadable(`has a field of the type ${unknown.datatype}`);
  const bytes = bytesOf(base64);
  const reader: Reader = { view: new DataView(bytes.buffer), at: 0 };
  const rows: string[][] = [];
  try {
    while (reader.at < bytes.length) {
      const before = reader.at;
      const flags = hasNullFlags ? takeFlags(reader, fields.length) : null;
      rows.push(
        fields.map((field, i) => {
          const cell = takeCell(reader, field);
          return flags?.[i] ? '' : cell;
        }),
      );
      if (reader.at === before) throw unreadable('has rows without any data');
    }
  } catch (error) {
    throw error instanceof RangeError ? unreadable('ends within a row') : error;
  }
  return rows;
}

const unreadable = (what: string): CoreError =>
  new CoreError('TABLE_UNREADABLE', `The VOTable’s binary data ${what}`, {});

/** One bit a field, the first in the highest bit; set where the cell is none. */
function takeFlags(reader: Reader, count: number): boolean[] {
  const from = reader.at;
  reader.at += Math.ceil(count / 8);
  return Array.from({ length: count }, (_, i) => ((reader.view.getUint8(from + (i >> 3)) >> (7 - (i & 7))) & 1) === 1);
}

/** Text for characters, a number for one value; of several values none can be a ledger's. */
function takeCell(reader: Reader, { datatype, arraysize }: BinaryField): string {
  const count = arraysize === undefined ? 1 : arraysize.endsWith('*') ? takeInt(reader) : product(arraysize);
  if (count < 0 || count * BYTES[datatype] > reader.view.byteLength - reader.at) throw new RangeError('past the end');
  const values = Array.from({ length: count }, () => takeValue(reader, datatype));
  if (datatype === 'char' || datatype === 'unicodeChar') {
    const text = String.fromCharCode(...(values as number[]));
    return (text.includes('\0') ? text.slice(0, text.indexOf('\0')) : text).trimEnd();
  }
  return values.length === 1 ? sayValue(values[0]) : '';
}

const product = (arraysize: string): number => arraysize.split('x').reduce((size, part) => size * Number(part), 1);
const sayValue = (value: number | bigint | string): string =>
  typeof value === 'number' && Number.isNaN(value) ? '' : String(value);

function takeInt(reader: Reader): number {
  const value = reader.view.getInt32(reader.at);
  reader.at += 4;
  return value;
}

function takeValue(reader: Reader, datatype: string): number | bigint | string {
  const { view, at } = reader;
  reader.at += BYTES[datatype];
  switch (datatype) {
    case 'boolean':
      return 'Tt1'.includes(String.fromCharCode(view.getUint8(at)))
        ? 'true'
        : 'Ff0'.includes(String.fromCharCode(view.getUint8(at)))
          ? 'false'
          : '';
    case 'short':
      return view.getInt16(at);
    case 'unicodeChar':
      return view.getUint16(at);
    case 'int':
      return view.getInt32(at);
    case 'long':
      return view.getBigInt64(at);
    case 'float':
      return Number(view.getFloat32(at).toPrecision(7));
    case 'double':
      return view.getFloat64(at);
    default:
      return view.getUint8(at);
  }
}

const ALPHABET = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/';
const SIXES = new Map([...ALPHABET].map((letter, six) => [letter, six]));

function bytesOf(base64: string): Uint8Array<ArrayBuffer> {
  const letters = base64.replace(/[\s=]+/g, '');
  const bytes = new Uint8Array(Math.floor((letters.length * 6) / 8));
  let [bits, held, at] = [0, 0, 0];
  for (const letter of letters) {
    const six = SIXES.get(letter);
    if (six === undefined) throw unreadable('is not written in base64');
    bits = ((bits << 6) | six) & 0xffffff;
    held += 6;
    if (held < 8) continue;
    held -= 8;
    bytes[at++] = (bits >> held) & 0xff;
  }
  return bytes;
}
