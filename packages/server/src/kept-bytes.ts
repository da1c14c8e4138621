// Bytes kept on this server's disk by what they are made of: made once, there again at once.
import { createHash } from 'node:crypto';
import { mkdir, readFile, rename, rm, writeFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';

export interface KeptAs {
  /** Within the folder for what is kept. */
  readonly under: string;
  readonly ending: string;
  /** What they are made of: other parts, other bytes. */
  readonly of: readonly (string | number)[];
}

/** @param folder null: nothing is kept */
export async function keptBytes(
  folder: string | null,
  { under, ending, of }: KeptAs,
  make: () => Promise<Uint8Array>,
): Promise<Uint8Array> {
  if (!folder) return make();
  const name = createHash('sha256').update(JSON.stringify(of)).digest('hex');
  const path = join(folder, under, `${name}.${ending}`);
  const kept = await readFile(path).catch(() => null);
  if (kept) return kept;
  const made = await make();
  await writeBeside(path, made);
  return made;
}

/** Nobody reads half of it. Where it can't be kept, on a full disk say, it is made again. */
export const writeBeside = (path: string, bytes: Uint8Array): Promise<void> =>
  writeWhole(path, bytes).catch(() => undefined);

/** Written beside and renamed.
 * @throws what the disk says */
export async function writeWhole(path: string, bytes: Uint8Array): Promise<void> {
  const beside = `${path}.${process.pid}`;
  try {
    await mkdir(dirname(path), { recursive: true });
    await writeFile(beside, bytes);
    await rename(beside, path);
  } catch (error) {
    await rm(beside, { force: true }).catch(() => undefined);
    throw error;
  }
}
