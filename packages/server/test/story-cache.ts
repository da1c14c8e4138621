// The demo's story is the same for every test file: worked out once for one state of the code it comes from, then read.
import { createHash, randomBytes } from 'node:crypto';
import { mkdirSync, readdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { Story } from '../../../demo/story.ts';

const ROOT = fileURLToPath(new URL('../../..', import.meta.url));
const SOURCES = ['demo', 'packages/core/src', 'packages/simulator/src', 'packages/server/catalogue'];
/** What a loaded database depends on beside its story. */
const LOADERS = ['packages/server/src', 'packages/server/test/test-app.ts', 'packages/contract/src'];
const FOLDER = join(ROOT, 'node_modules/.cache/meridiem');

/** @param name what sets this story apart from others of the same code */
export function cachedStory(name: string, make: () => Story): Story {
  const file = join(FOLDER, `story-${hashOfSources(name)}.json`);
  try {
    return JSON.parse(readFileSync(file, 'utf8')) as Story;
  } catch {
    const story = make();
    mkdirSync(FOLDER, { recursive: true });
    // Another worker may write the same: whole files only.
    const written = `${file}.${randomBytes(4).toString('hex')}`;
    writeFileSync(written, JSON.stringify(story));
    renameSync(written, file);
    return story;
  }
}

export const hashOfLoaders = (name: string): string => hashOfSources(name, [...SOURCES, ...LOADERS]);

function hashOfSources(name: string, sources = SOURCES): string {
  const hash = createHash('sha256').update(name);
  for (const source of sources) {
    const paths = source.endsWith('.ts') ? [''] : (readdirSync(join(ROOT, source), { recursive: true }) as string[]);
    for (const path of paths.toSorted())
      if (/\.(ts|json|bin)$/.test(source + path)) hash.update(path).update(readFileSync(join(ROOT, source, path)));
  }
  return hash.digest('hex').slice(0, 24);
}
