import { appendFileSync, existsSync, mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, it } from '@jest/globals';
import type { Report } from './kept-reports.ts';
import { keptReports } from './kept-reports.ts';

let folder: string;
beforeEach(() => void (folder = mkdtempSync(join(tmpdir(), 'reports-'))));
afterEach(() => rmSync(folder, { recursive: true }));

const quiet = (): void => undefined;
const begin = (stepId: string): Report => ({ what: 'begin', stepId });
const taken = (stepId: string): Report => ({
  what: 'finish',
  outcome: { stepId, outcome: 'done', words: 'Taken: 40 stars', exposure: null },
  frame: { part: `.${stepId}.part`, name: `${stepId}.fits` },
});
const unsent = () => keptReports(folder, 'run', quiet).unsent.map(({ report }) => report);

describe('kept reports', () => {
  it('are told by the next process where they were never sent, in their order', () => {
    const kept = keptReports(folder, 'run', quiet);
    const numbers = [begin('a'), taken('a'), begin('b')].map((report) => kept.keep(report));
    kept.sent(numbers[0]);
    expect(unsent()).toEqual([taken('a'), begin('b')]);
    expect(keptReports(folder, 'another run', quiet).unsent).toEqual([]);
    // Numbers go on: what the next process keeps is never taken for something sent before.
    expect(keptReports(folder, 'run', quiet).keep(begin('c'))).toBe(numbers[2] + 1);
  });

  it('make a frame’s name final, also where the process ended between the two', () => {
    writeFileSync(join(folder, '.a.part'), 'pixels');
    writeFileSync(join(folder, '.b.part'), 'pixels');
    const kept = keptReports(folder, 'run', quiet);
    kept.keep(taken('a'));
    expect([existsSync(join(folder, 'a.fits')), existsSync(join(folder, '.a.part'))]).toEqual([true, false]);
    appendFileSync(join(folder, '.reports/run.jsonl'), `${JSON.stringify({ n: 9, report: taken('b') })}\n`);
    keptReports(folder, 'run', quiet);
    expect(existsSync(join(folder, 'b.fits'))).toBe(true);
  });

  it('bear a last line that was cut off, and are gone with their night', () => {
    const kept = keptReports(folder, 'run', quiet);
    kept.keep(begin('a'));
    appendFileSync(join(folder, '.reports/run.jsonl'), '{"n":2,"report":{"wh');
    expect(unsent()).toEqual([begin('a')]);
    kept.forget();
    expect(unsent()).toEqual([]);
  });

  it('go on in memory where the disk takes no more, and say so once', () => {
    // A file where the folder should be: nothing can be written there.
    mkdirSync(folder, { recursive: true });
    writeFileSync(join(folder, '.reports'), '');
    const said: string[] = [];
    const kept = keptReports(folder, 'run', (words) => void said.push(words));
    expect([kept.keep(begin('a')), kept.keep(begin('b'))]).toEqual([1, 2]);
    expect(said).toHaveLength(1);
  });
});
