// What would grow without end is pruned: expired sessions, counted tries, events that everybody has been told, kept pictures.
import { readdir, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { Op } from 'sequelize';
import type { Config } from '../config.ts';
import type { Database } from '../database/connection.ts';
import { FORGET_TRIES_MS, pruneTries } from '../modules/accounts/index.ts';
import { pruneJobs } from './repository.ts';
import { pruneSessions } from '../plugins/sessions-repository.ts';

const EVERY_MS = 10 * 60_000;
/** A server that was away for longer fetches everything again anyway. */
const KEPT_EVENTS_MS = 86_400_000;
const KEPT_JOBS_MS = 7 * 86_400_000;
const KEPT_CALLS_MS = 86_400_000;
/** Pictures of the sky that are kept, together; the least lately used go first. */
export const MOST_CACHE_BYTES = 512 * 1_048_576;

export interface Housekeeping {
  /** One round, at once. */
  readonly once: () => Promise<void>;
  readonly stop: () => void;
}

export interface HousekeepingParts {
  readonly database: Database;
  readonly config: Config;
  readonly warn: (error: unknown) => void;
}

/** Begins rounds of pruning, every ten minutes. */
export function createHousekeeping({ database, config, warn }: HousekeepingParts): Housekeeping {
  const once = async (): Promise<void> => {
    await pruneSessions(database);
    await pruneTries(database, FORGET_TRIES_MS);
    await pruneJobs(database, new Date(Date.now() - KEPT_JOBS_MS));
    await database.models.DoneCall.destroy({ where: { at: { [Op.lt]: new Date(Date.now() - KEPT_CALLS_MS) } } });
    await database.models.Event.destroy({ where: { at: { [Op.lt]: new Date(Date.now() - KEPT_EVENTS_MS) } } });
    if (config.cacheFolder) await pruneFolder(join(config.cacheFolder, 'survey'), MOST_CACHE_BYTES);
  };
  const timer = setInterval(() => void once().catch(warn), EVERY_MS).unref();
  return { once, stop: () => clearInterval(timer) };
}

/** Removes the least lately used files of a folder until the rest fit. */
export async function pruneFolder(folder: string, mostBytes: number): Promise<void> {
  const names = await readdir(folder).catch(() => []);
  const files = await Promise.all(
    names.map(async (name) => {
      const path = join(folder, name);
      const found = await stat(path).catch(() => null);
      return { path, size: found?.size ?? 0, usedMs: found?.mtimeMs ?? 0 };
    }),
  );
  let size = files.reduce((sum, file) => sum + file.size, 0);
  for (const file of files.sort((a, b) => a.usedMs - b.usedMs)) {
    if (size <= mostBytes) return;
    await rm(file.path, { force: true });
    size -= file.size;
  }
}
