import { describe, expect, it } from '@jest/globals';
import { owedWords } from '../calibration/owed-after.ts';
import { reportWords } from './night-messages.ts';

const project = (own: number, more: object = {}) => ({
  ...{ projectId: 'p', projectName: 'Veil', ownerId: 'o', own, shared: 0, hours: own / 10, rejected: 0 },
  ...more,
});
const report = { rigName: 'Wren', nightDate: '2026-11-29', end: 'finished' as const, owed: null };

describe('the morning’s report', () => {
  it('says how much was taken, what was rejected, how it ended and what calibration is owed', () => {
    const gathered = [project(14, { rejected: 2 }), project(6)];
    const words = reportWords({ ...report, gathered, owed: 'flats for L and R, darks' });
    expect(words).toMatch(/^Wren, night of 2026-11-29: 20 exposures \(2\.0 h\), 2 rejected\. .*Calibration owed: flats for L and R, darks\.$/); // prettier-ignore
  });

  it('counts an exposure that two projects share once', () => {
    const gathered = [project(10), project(10, { shared: 5 })];
    expect(reportWords({ ...report, gathered })).toMatch(/: 15 exposures \(1\.5 h\)\./);
  });

  it('says so where nothing was taken, and leaves out what there is none of', () => {
    expect(reportWords({ ...report, gathered: [], end: null })).toBe('Wren, night of 2026-11-29: 0 exposures.');
    expect(reportWords({ ...report, gathered: [project(1)], end: null })).toMatch(/: 1 exposure \(0\.1 h\)\.$/);
  });
});

describe('calibration owed', () => {
  const flat = (filterId: string) => ({ kind: 'flat' as const, like: { filterId } as never });
  const letters = new Map([['a', 'L'], ['b', 'R'], ['c', 'Ha']]); // prettier-ignore
  it('names the filters of its flats, each once, and the other kinds', () => {
    const dark = { kind: 'dark' as const, like: {} as never };
    expect(owedWords([flat('a'), flat('b'), flat('a'), dark], letters)).toBe('flats for L and R, darks');
    expect(owedWords([flat('a'), flat('b'), flat('c')], letters)).toBe('flats for L, R and Ha');
    expect(owedWords([flat('gone')], letters)).toBe('flats');
  });
});
