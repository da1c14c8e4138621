// Pictures of the sky kept on this server: fetched once, there again without the network.
import { mkdir, readFile, readdir, rename, rm, stat, utimes, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { Picture } from './source.ts';

const ENDINGS = { 'image/png': 'png', 'image/jpeg': 'jpg' } as const;

export async function readKept(folder: string | null, key: string): Promise<Picture | null> {
  if (!folder) return null;
  for (const type of ['image/png', 'image/jpeg'] as const) {
    const path = join(folder, 'survey', `${key}.${ENDINGS[type]}`);
    const bytes = await readFile(path).catch(() => null);
    if (bytes) {
      const now = new Date();
      await utimes(path, now, now).catch(() => undefined);
      return { bytes, type };
    }
  }
  return null;
}

/** Written beside and renamed: nobody reads half a picture. Where it can’t be kept, a full disk say, it is fetched again. */
export async function keep(folder: string | null, key: string, { bytes, type }: Picture): Promise<void> {
  if (!folder) return;
  const path = join(folder, 'survey', `${key}.${ENDINGS[type]}`);
  const beside = `${path}.${process.pid}`;
  try {
    await mkdir(join(folder, 'survey'), { recursive: true });
    await writeFile(beside, bytes);
    await rename(beside, path);
  } catch {
    await rm(beside, { force: true }).catch(() => undefined);
  }
}

/** How many pictures are kept, and how much room they take. */
export async function keptAmount(folder: string | null): Promise<{ count: number; bytes: number }> {
  if (!folder) return { count: 0, bytes: 0 };
  const names = await readdir(join(folder, 'survey')).catch(() => []);
  const sizes = await Promise.all(
    names.map(async (name) => (await stat(join(folder, 'survey', name)).catch(() => null))?.size ?? 0),
  );
  return { count: sizes.length, bytes: sizes.reduce((sum, size) => sum + size, 0) };
}

export async function clearKept(folder: string | null): Promise<void> {
  if (folder) await rm(join(folder, 'survey'), { recursive: true, force: true });
}
