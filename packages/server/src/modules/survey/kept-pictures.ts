// Pictures of the sky kept on this server: fetched once, there again without the network.
import { readFile, readdir, rm, stat, utimes } from 'node:fs/promises';
import { join } from 'node:path';
import { writeBeside } from '../../kept-bytes.ts';
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

export async function keep(folder: string | null, key: string, { bytes, type }: Picture): Promise<void> {
  if (folder) await writeBeside(join(folder, 'survey', `${key}.${ENDINGS[type]}`), bytes);
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
