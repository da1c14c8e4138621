// Frames on this server's disk, and drawings of them that are kept: made once, there again at once.
import { createHash } from 'node:crypto';
import { mkdir, readFile, rename, rm, stat, writeFile } from 'node:fs/promises';
import { join } from 'node:path';

/** @returns the file's size; null where it is not there */
export const sizeOf = async (path: string): Promise<number | null> =>
  stat(path).then(
    ({ size }) => size,
    () => null,
  );

/** A drawing by what it is made of.
 * @param folder null: nothing is kept */
export async function keptDrawing(
  folder: string | null,
  of: readonly (string | number)[],
  draw: () => Promise<Uint8Array>,
): Promise<Uint8Array> {
  if (!folder) return draw();
  const path = join(folder, 'frames', `${createHash('sha256').update(JSON.stringify(of)).digest('hex')}.png`);
  const kept = await readFile(path).catch(() => null);
  if (kept) return kept;
  const drawn = await draw();
  const beside = `${path}.${process.pid}`;
  try {
    await mkdir(join(folder, 'frames'), { recursive: true });
    await writeFile(beside, drawn);
    await rename(beside, path);
  } catch {
    // Where it can't be kept, on a full disk say, it is drawn again.
    await rm(beside, { force: true }).catch(() => undefined);
  }
  return drawn;
}
