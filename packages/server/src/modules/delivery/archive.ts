// The archive as a stream from any of its bytes on: headers and lists from memory, frames from disk.
import { open } from 'node:fs/promises';
import { Readable } from 'node:stream';
import type { TarLayout, TarPiece } from '@meridiem/core';
import { tarHeader, tarPieces } from '@meridiem/core';

/** Where an entry's bytes come from. */
export type EntrySource = { readonly bytes: Uint8Array } | { readonly path: string };

const ZEROS = new Uint8Array(1024);
const RUN_BYTES = 1 << 18;

/** @param sources by the entry's name
 * @param range from the first byte up to, not including, the last */
export const archiveStream = (
  layout: TarLayout,
  sources: ReadonlyMap<string, EntrySource>,
  range: { readonly start: number; readonly end: number },
): Readable => Readable.from(archiveBytes(layout, sources, range), { objectMode: false });

async function* archiveBytes(
  layout: TarLayout,
  sources: ReadonlyMap<string, EntrySource>,
  { start, end }: { readonly start: number; readonly end: number },
): AsyncGenerator<Uint8Array> {
  for (const piece of tarPieces(layout, start, end)) yield* bytesOf(piece, sources);
}

async function* bytesOf(piece: TarPiece, sources: ReadonlyMap<string, EntrySource>): AsyncGenerator<Uint8Array> {
  if (piece.kind === 'zeros') return yield ZEROS.subarray(0, piece.length);
  const { entry, from, to } = piece;
  if (piece.kind === 'header') return yield tarHeader(entry).subarray(from, to);
  const source = sources.get(entry.name)!;
  if ('bytes' in source) return yield source.bytes.subarray(from, to);
  const file = await open(source.path);
  try {
    for (let at = from; at < to;) {
      const { bytesRead, buffer } = await file.read(
        Buffer.alloc(Math.min(RUN_BYTES, to - at)),
        0,
        Math.min(RUN_BYTES, to - at),
        at,
      );
      // A file that has become shorter since would shift everything after it: the download is cut instead.
      if (bytesRead === 0) throw new Error(`${entry.name} ends before its last byte`);
      yield buffer.subarray(0, bytesRead);
      at += bytesRead;
    }
  } finally {
    await file.close();
  }
}
