import { describe, expect, it } from '@jest/globals';
import type { PlanBlock, RigPlan } from '@meridiem/contract';
import { blockWords, markedBlock, nightCurves, plansSentence } from './night-picture.ts';

const at = (clock: string): number => Date.parse(`2026-10-11T${clock}:00Z`);
const run = (filterLetter: string, count: number, meanRateShare = 0.8) => ({ filterLetter, count, exposureSec: 120, meanRateShare, filterClass: 'broadband', startUtcMs: 0, endUtcMs: at('11:00') }); // prettier-ignore
const block = (panelId: string, projectName: string, start: string, changes: Partial<PlanBlock> = {}): PlanBlock =>
  ({
    panelId,
    panelName: `${projectName} ${panelId}`,
    projectName,
    startUtcMs: at(start),
    endUtcMs: at(start) + 3_600_000,
    altitudeDeg: [10, 20],
    flipUtcMs: null,
    runs: [run('L', 10)],
    ...changes,
  }) as PlanBlock;
const plan = (rigName: string, blocks: PlanBlock[], published = false): RigPlan =>
  ({ rigId: rigName, rigName: `${rigName}, a rig`, blocks, versions: published ? [{ seq: 1 }] : [], usable: [] }) as unknown as RigPlan; // prettier-ignore

const NONE = { preparationMin: 0, nowUtcMs: 0 };

describe('the night of all rigs', () => {
  const mosaic = [block('1', 'NGC 55', '10:00'), block('2', 'NGC 55', '11:00'), block('1', 'NGC 55', '13:00')];

  it('has a curve a panel, a name a project, and the marked one stands out', () => {
    const curves = nightCurves([plan('Wren', mosaic), plan('Heron', [block('3', 'A very long name of a faraway nebula', '10:00')])], { rigId: 'Wren', panelId: '2', startUtcMs: 0 }); // prettier-ignore
    expect(curves.map(({ key, name, isMarked }) => [key, name, isMarked])).toEqual([
      ['1', 'NGC 55', false],
      ['2', undefined, true],
      ['3', 'A very long name of a far…', false],
    ]);
    expect(curves[0].during).toHaveLength(2);
  });

  it('begins with the call time, where preparation takes time', () => {
    const own = [plan('Wren', [block('1', 'A', '10:30')]), plan('Heron', [block('2', 'B', '10:00')])];
    const before = { preparationMin: 45, nowUtcMs: at('09:00') };
    expect(plansSentence(own, 'utc', before)).toMatch(/^Call time 09:15\. Wren starts at 10:30/);
    expect(plansSentence(own, 'utc', { ...before, nowUtcMs: at('09:20') })).toMatch(/^Wren starts at 10:30/);
    expect(plansSentence([plan('Wren', [])], 'utc', before)).toBe('Nothing is planned.');
  });

  it('is said in a sentence', () => {
    const [one, two] = [[block('1', 'A', '10:00')], [block('2', 'B', '10:30')]];
    expect(plansSentence([plan('Wren', []), plan('Heron', [])], 'utc', NONE)).toBe('Nothing is planned.');
    expect(plansSentence([plan('Wren', one)], 'utc', NONE)).toBe('The plan starts at 10:00; nothing published.');
    expect(plansSentence([plan('Wren', one), plan('Heron', one)], 'utc', NONE)).toBe('Both plans start at 10:00; nothing published.'); // prettier-ignore
    expect(plansSentence([plan('Wren', one, true), plan('Heron', two)], 'utc', NONE)).toBe('Wren starts at 10:00, Heron starts at 10:30; only Wren published.'); // prettier-ignore
    expect(plansSentence([plan('Wren', []), plan('Heron', two, true)], 'utc', NONE)).toBe('Only Heron is planned and starts at 10:30; published.'); // prettier-ignore
    expect(plansSentence([plan('Wren', one, true), plan('Heron', two, true)], 'utc', NONE)).toMatch(
      /both published\.$/,
    );
  });

  it('tells of a block its counts by filter and its rate, weighed by frames', () => {
    const own = block('1', 'NGC 55', '10:00', { runs: [run('L', 10, 0.9), run('R', 5, 0.6), run('L', 5, 0.9)] as PlanBlock['runs'], flipUtcMs: at('10:40') }); // prettier-ignore
    expect(blockWords(plan('Wren', [own]), own, 'utc')).toBe(
      'Wren, NGC 55 1: 10:00 to 11:00; L 15 × 120 s, R 5 × 120 s; signal rate 83 % of best; flips at 10:40',
    );
  });

  it('finds the marked block again after the plan has moved it', () => {
    const plans = [plan('Wren', mosaic)];
    const marked = { rigId: 'Wren', panelId: '1', startUtcMs: at('13:00') };
    expect(markedBlock(plans, marked)?.block.startUtcMs).toBe(at('13:00'));
    expect(markedBlock(plans, { ...marked, startUtcMs: at('12:00') })?.block.startUtcMs).toBe(at('10:00'));
    expect(markedBlock(plans, { ...marked, panelId: 'gone' })).toBeNull();
    expect(markedBlock(plans, null)).toBeNull();
  });
});
