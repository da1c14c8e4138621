// A file to what an import needs of it, in the browser and on the command line alike: headers first, the hash of the data later.
import type { FrameFacts, FitsHeaders } from '@meridiem/core';
import { frameFacts, frameFromRow, imageOf, readCsv, readFitsHeaders, readVoTable } from '@meridiem/core';
import type { FrameData } from './frame-hashes.ts';
import type { ImportedFile } from './imports.ts';
import { unzip } from './unzip.ts';

/** One thing to import, with the data its hashes are made from; null where there is nothing to hash. */
export interface ReadFile {
  readonly file: ImportedFile;
  readonly data: FrameData | null;
}

const FIRST_BYTES = 36 * 2880;
const TABLE = /\.(csv|xml|vot|votable)$/i;

/** Reads a file's headers, or a table's rows; what can't be read says why.
 * @param timeZone of the observatory, for writers that put local time into their headers */
export async function readFrameFile(name: string, source: Blob, timeZone: string): Promise<ReadFile[]> {
  try {
    if (TABLE.test(name)) return rowsOf(name, await source.text());
    const plain = await plainOf(source);
    const headers = await headersOf(plain);
    const facts = frameFacts(headers, { timeZone });
    if (!facts) return [refusedFile(name, source.size, 'The file holds no image')];
    return [{ file: importedFile(name, source.size, facts), data: dataOf(plain, facts, headers) }];
  } catch (error) {
    return [refusedFile(name, source.size, error instanceof Error ? error.message : 'The file can’t be read')];
  }
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

async function plainOf(source: Blob): Promise<Blob> {
  const [a, b] = new Uint8Array(await source.slice(0, 2).arrayBuffer());
  if (a !== 0x1f || b !== 0x8b) return source;
  return unzip(source);
}

const dataOf = (plain: Blob, { dataStart, dataLength }: FrameFacts, headers: FitsHeaders): FrameData | null =>
  dataLength > 0
    ? { bytes: plain.slice(dataStart, dataStart + dataLength), cards: imageOf(headers)?.cards ?? [] }
    : null;

function rowsOf(name: string, text: string): ReadFile[] {
  const rows = /\.csv$/i.test(name) ? readCsv(text) : readVoTable(text);
  return rows.map((row, i) => {
    const rowName = `${name}, row ${i + 1}`;
    try {
      const facts = frameFromRow(row, i + 1);
      const verdict = ['accepted', 'rejected', 'undecided'].find((known) => known === row.verdict) ?? null;
      const file = importedFile(rowName, 0, facts, {
        dataSha256: hashIn(row.data_sha256),
        pixelsSha256: hashIn(row.pixels_sha256),
        headerKey: row.header_key || null,
        verdict: verdict as ImportedFile['verdict'],
      });
      return { file, data: null };
    } catch (error) {
      return refusedFile(rowName, 0, (error as Error).message);
    }
  });
}

const hashIn = (text: string | undefined): string | null => (/^[0-9a-f]{64}$/.test(text ?? '') ? text! : null);

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
  pixelsSha256: null,
  headerKey: null,
  verdict: null,
  ...known,
});

const refusedFile = (name: string, sizeBytes: number, refused: string): ReadFile => ({
  file: { name, sizeBytes, facts: null, refused, dataSha256: null, pixelsSha256: null, headerKey: null, verdict: null },
  data: null,
});
