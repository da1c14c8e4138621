// docs/capabilities.md holds every need of seven stages once, each with its state.
import { readdirSync, readFileSync } from 'node:fs';
import { expect, it } from '@jest/globals';

const STAGES = { T: 23, F: 33, X: 39, S: 30, E: 25, J: 18, C: 14 };
const WANTED = Object.entries(STAGES).flatMap(([stage, count]) =>
  Array.from({ length: count }, (_, i) => `${stage}-${String(i + 1).padStart(2, '0')}`),
);
const rows = readFileSync('docs/capabilities.md', 'utf8')
  .split('\n')
  .map((line) => line.split('|').map((cell) => cell.trim()))
  .filter(([, id]) => /^[TFXSEJC]-\d\d$/.test(id ?? ''));

/** Suites in the browser by the word that stands for them. */
const SUITES = ['mouse', 'keyboard', 'crash', 'pages', 'people (e)', 'time (f)', 'framing (g)', 'finder (h)', 'afternoon (i)', 'jobs (j)', 'season (l)', 'shares (m)', 'visits (n)', 'founding (o)', 'watch (p)']; // prettier-ignore
const files = ['packages', 'e2e'].flatMap((folder) => readdirSync(folder, { recursive: true, encoding: 'utf8' }));
const tested = new Set(
  files
    .filter((path) => path.endsWith('.test.ts') && !path.includes('node_modules'))
    .map((path) => path.split('/').at(-1)!.replace('.test.ts', '')),
);
const isTest = (name: string): boolean =>
  SUITES.includes(name) || tested.has(name.replace(/ \(.*\)$/, '')) || name.endsWith('-reference');

it('names every need once', () => expect(rows.map(([, id]) => id)).toEqual(WANTED));

it.each(rows.map(([, id, state, where, test, missing]) => ({ id, state, where, test, missing })))(
  '$id says where it is and what is missing of it',
  ({ state, where, test, missing }) => {
    expect(['full', 'partly', 'not yet']).toContain(state);
    expect(test.split(', ').filter((name) => name !== '' && name !== '—' && !isTest(name))).toEqual([]);
    if (state === 'full') expect([where !== '', test !== '', missing]).toEqual([true, true, '']);
    if (state === 'partly') expect([where !== '', missing !== '']).toEqual([true, true]);
    if (state === 'not yet') expect(where).toBe('');
  },
);
