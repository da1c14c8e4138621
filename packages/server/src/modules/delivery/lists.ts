// What lies beside the frames in an archive: a list for people and programs, and checksums for a checking program.
import type { DeliveredFile } from '@meridiem/contract';

const COLUMNS = ['file', 'kind', 'filter', 'exposure_s', 'start_utc', 'verdict', 'bytes', 'sha256'] as const;

/** A table with one line a frame. */
export const frameList = (files: readonly DeliveredFile[]): string =>
  [
    COLUMNS.join(','),
    ...files.map(({ name, kind, filterLetter, exposureSec, startUtcMs, verdict, sizeBytes, sha256 }) =>
      [
        name,
        kind,
        quoted(filterLetter ?? ''),
        exposureSec,
        new Date(startUtcMs).toISOString(),
        verdict ?? '',
        sizeBytes,
        sha256,
      ].join(','),
    ),
    '',
  ].join('\n');

/** As checking programs read it: the sum, two spaces, the path. */
export const checksums = (files: readonly DeliveredFile[]): string =>
  files.map(({ name, sha256 }) => `${sha256}  ${name}\n`).join('');

/** Letters of filters are free words. */
const quoted = (words: string): string => (/[",\n]/.test(words) ? `"${words.replaceAll('"', '""')}"` : words);
