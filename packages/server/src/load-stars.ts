// Takes a list of stars into the place where pictures are solved by it: load-stars FILE OUT.
import { createReadStream } from 'node:fs';
import { createInterface } from 'node:readline';
import type { SkyStar } from '@meridiem/core';
import { CoreError, FAINT_FROM_MAG, starLineReader } from '@meridiem/core';
import { writeWhole } from './kept-bytes.ts';
import { packDeepStars } from './sky/deep-stars.ts';

export interface LoadedStars {
  readonly stars: number;
  /** Shipped already. */
  readonly bright: number;
  /** Lines that hold no star. */
  readonly others: number;
}

/** @throws TABLE_UNREADABLE where its first line is no heading, or no line holds a star */
export async function loadStarList(path: string, out: string): Promise<LoadedStars> {
  const stars: SkyStar[] = [];
  let read: ((line: string) => SkyStar | null) | null = null;
  let others = 0;
  for await (const line of createInterface({ input: createReadStream(path), crlfDelay: Infinity })) {
    if (line.trim() === '' || line.startsWith('#')) continue;
    if (read === null) {
      read = starLineReader(line);
      continue;
    }
    const star = read(line);
    if (star) stars.push(star);
    else others += 1;
  }
  if (stars.length === 0) throw new CoreError('TABLE_UNREADABLE', 'No line of the list holds a star', {});
  await writeWhole(out, packDeepStars(stars));
  const bright = stars.filter(({ mag }) => mag <= FAINT_FROM_MAG).length;
  return { stars: stars.length - bright, bright, others };
}

if (process.argv[1] === import.meta.filename) {
  const [path, out] = process.argv.slice(2);
  try {
    const { stars, bright, others } = await loadStarList(path, out);
    console.log(`${stars} stars fainter than magnitude ${FAINT_FROM_MAG} are known now; ${bright} brighter ones are shipped already, ${others} lines held none.`); // prettier-ignore
  } catch (error) {
    console.error(error instanceof Error ? error.message : String(error));
    process.exitCode = 1;
  }
}
