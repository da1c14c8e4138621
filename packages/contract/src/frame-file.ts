// A file to what an import needs of it, in the browser and on the command line alike: headers first, the hash of the data later.
import type { FrameFacts, FitsHeaders } from '@meridiem/core';
import { frameFacts, frameFromRow, readCsv, readFitsHeaders, readVoTable } from '@meridiem/core';
import type { ImportedFile } from './imports.ts';

/** One thing to import, with the bytes its hash is made from; null where there is nothing to hash. */
export interface ReadFile {
  readonly file: ImportedFile;
  readonly data: Blob | null;
}

const FIRST_BYTES = 36 * 2880;
/** A frame of noise shrinks to a half, an empty one to a thousandth; unpacked files up to this size are read whatever they are. */
const MOST_TIMES = 200;
const SMALL_BYTES = 64 * 1_048_576;
const TABLE = /\.(csv|xml|vot|votable)$/i;

/** Reads a file's headers, or a table's rows; what can't be read says why.
 * @param timeZone of the observatory, for writers that put local time into their headers */
export async function readFrameFile(name: string, source: Blob, timeZone: string): Promise<ReadFile[]> {
  try {
    if (TABLE.test(name)) return rowsOf(name, await source.text());
    const plain = await unzipped(source);
    const facts = frameFacts(await headersOf(plain), { timeZone });
    if (!facts) return [refusedFile(name, source.size, 'The file holds no image')];
    return [{ file: importedFile(name, source.size, facts), data: dataOf(plain, facts) }];
  } catch (error) {
    return [refusedFile(name, source.size, error instanceof Error ? error.message : 'The file can’t be read')];
  }
}

/** SHA-256, hexadecimal. */
export async function sha256Of(data: Blob): Promise<string> {
  const digest = await crypto.subtle.digest('SHA-256', await data.arrayBuffer());
  return Array.from(new Uint8Array(digest), (byte) => byte.toString(16).padStart(2, '0')).join('');
}

/** The beginning is enough for most; extensions behind large data need more. */
async function headersOf(plain: Blob): Promise<FitsHeaders> {
  const read = async (length: number): Promise<FitsHeaders> =>
    readFitsHeaders(new Uint8Array(await plain.slice(0, length).arrayBuffer()), plain.size);
  if (plain.size <= FIRST_BYTES) return read(plain.size);
  const first = await read(FIRST_BYTES).catch(() => null);
  const hasImage = first !== null && frameFacts(first, { timeZone: 'UTC' }) !== null;
  return hasImage ? first : read(plain.size);
}

async function unzipped(source: Blob): Promise<Blob> {
  const [a, b] = new Uint8Array(await source.slice(0, 2).arrayBuffer());
  if (a !== 0x1f || b !== 0x8b) return source;
  const plain = source.stream().pipeThrough(new DecompressionStream('gzip'));
  return new Response(plain.pipeThrough(upTo(Math.max(SMALL_BYTES, source.size * MOST_TIMES)))).blob();
}

/** Ends in an error where more comes than a frame packed as tightly as frames are could hold. */
function upTo(mostBytes: number): TransformStream<Uint8Array, Uint8Array> {
  let size = 0;
  return new TransformStream({
    transform(part, controller) {
      size += part.length;
      if (size > mostBytes)
        controller.error(new Error('Unpacked it is far larger than a frame can be; it is not read'));
      else controller.enqueue(part);
    },
  });
}

const dataOf = (plain: Blob, { dataStart, dataLength }: FrameFacts): Blob | null =>
  dataLength > 0 ? plain.slice(dataStart, dataStart + dataLength) : null;

function rowsOf(name: string, text: string): ReadFile[] {
  const rows = /\.csv$/i.test(name) ? readCsv(text) : readVoTable(text);
  return rows.map((row, i) => {
    const rowName = `${name}, row ${i + 1}`;
    try {
      const facts = frameFromRow(row, i + 1);
      const verdict = ['accepted', 'rejected', 'undecided'].find((known) => known === row.verdict) ?? null;
      const file = importedFile(rowName, 0, facts, {
        dataSha256: /^[0-9a-f]{64}$/.test(row.data_sha256 ?? '') ? row.data_sha256 : null,
        headerKey: row.header_key || null,
        verdict: verdict as ImportedFile['verdict'],
      });
      return { file, data: null };
    } catch (error) {
      return refusedFile(rowName, 0, (error as Error).message);
    }
  });
}

const importedFile = (
  name: string,
  sizeBytes: number,
  facts: FrameFacts,
  known: Partial<ImportedFile> = {},
): ImportedFile => ({
  name,
  sizeBytes,
  facts: { ...facts, doubts: [...facts.doubts] },
  refused: null,
  dataSha256: null,
  headerKey: null,
  verdict: null,
  ...known,
});

const refusedFile = (name: string, sizeBytes: number, refused: string): ReadFile => ({
  file: { name, sizeBytes, facts: null, refused, dataSha256: null, headerKey: null, verdict: null },
  data: null,
});
