import { describe, expect, it } from '@jest/globals';
import type { Goal, LeftOut, PlanBlock, ProjectRow, Rig, RigPlan } from '@meridiem/contract';
import { noonWords } from '../words/noon.ts';
import { typedNumber } from '../words/typed.ts';
import { rigFacts } from './observatory/view-model.ts';
import { leftWords, totalsOf } from './project/view-model.ts';
import { orderedProjects, stateWords, tonightWords } from './projects/view-model.ts';
import { endWords, leftOutRows, planSummary, takenOf } from './tonight/view-model.ts';

const reason = (code: string) => ({
  code,
  limit: 30,
  best: 12,
  worst: 3,
  origin: 'project',
  rival: null,
  interval: null,
});
const tally = {
  accepted: 1,
  undecided: 0,
  rejected: 0,
  wanted: 4,
  acceptedHours: 1,
  undecidedHours: 0,
  rejectedHours: 0,
  wantedHours: 4,
  effectiveHours: 0.5,
  done: 1,
  toPlan: 3,
};
const goal = {
  enabled: true,
  wanted: 4,
  exposureSec: 3600,
  leftExposingSec: 10_800,
  leftOverheadSec: 600,
  tally,
} as unknown as Goal;

describe('tonight', () => {
  const left = (projectId: string, filterLetter: string, code: string): LeftOut => ({
    projectId,
    projectName: projectId,
    panelName: `${projectId} ${filterLetter}`,
    filterLetter,
    filterClass: 'broadband',
    goalId: filterLetter,
    reason: reason(code),
  });

  it('gathers goals of a project that are left out for one reason', () => {
    const rows = leftOutRows([
      left('p', 'L', 'TWILIGHT'),
      left('p', 'R', 'TWILIGHT'),
      left('p', 'B', 'RESTING'),
      left('q', 'L', 'TWILIGHT'),
    ]);
    expect(rows.map((row) => [row.projectName, row.filters.length])).toEqual([
      ['p', 2],
      ['p', 1],
      ['q', 1],
    ]);
  });

  const run = { filterClass: 'narrowband', endUtcMs: 7_200_000, count: 10, taken: 4, meanRateShare: 1 };
  const block = { endUtcMs: 7_200_000, runs: [run] } as unknown as PlanBlock;
  const plan = {
    usable: [{ class: 'narrowband', windows: [{ startUtcMs: 0, endUtcMs: 7_800_000 }] }],
    blocks: [block],
    exposingHours: 2,
    overheadHours: 0.4,
  } as unknown as RigPlan;

  it('says whether an end is possible, and by how much', () => {
    expect(endWords(block, plan, 'UTC')).toBe('02:00, 10 min before twilight is too bright');
    const late = { ...block, runs: [{ ...run, endUtcMs: 9_000_000 }] } as unknown as PlanBlock;
    expect(endWords(late, plan, 'UTC')).toMatch(/20 min past its darkness/);
  });
  it('shows overhead apart', () => expect(planSummary(plan)).toBe('10 exposures, 2.0 h exposing + 0.4 h overhead'));
  it('counts what is taken', () => expect(takenOf(block)).toEqual({ taken: 4, count: 10 }));
});

describe('projects', () => {
  const row = {
    state: 'granted',
    resting: false,
    complete: false,
    share: 0.5,
    ownerName: 'B',
    tonight: { planned: 0, usableHours: 0, windows: [], reason: reason('AWAITING_VERDICTS') },
  } as unknown as ProjectRow;

  it('tell nothing left tonight from complete', () => {
    expect(tonightWords(row)).toBe('awaiting verdicts');
    expect(tonightWords({ ...row, complete: true })).toBe('nothing more wanted');
    expect([stateWords(row), stateWords({ ...row, complete: true }), stateWords({ ...row, resting: true })]).toEqual([
      'granted',
      'complete',
      'granted, resting',
    ]);
  });
  it('are ordered as wished, ties as they came', () => {
    const rows = [row, { ...row, share: 0.9, ownerName: 'A' }, { ...row, share: 0.1 }];
    expect(orderedProjects(rows, 'share').map(({ share }) => share)).toEqual([0.9, 0.5, 0.1]);
    expect(orderedProjects(rows, 'owner').map(({ share }) => share)).toEqual([0.9, 0.5, 0.1]);
    expect(orderedProjects(rows, 'state')).toEqual(rows);
  });
});

describe('a project', () => {
  it('words what is left of a goal', () => {
    expect(leftWords(goal)).toBe('3 h 00 min + 10 min');
    expect(leftWords({ ...goal, leftExposingSec: 0, tally: { ...tally, toPlan: 0, undecided: 3, done: 1 } })).toBe(
      'awaiting verdicts',
    );
    expect(leftWords({ ...goal, leftExposingSec: null })).toBe('open-ended');
  });
  it('leaves goals that are switched off out of its totals', () => {
    const panel = { goals: [goal, { ...goal, enabled: false }] } as never;
    expect(totalsOf([panel])).toMatchObject({ acceptedHours: 1, wantedHours: 4, leftExposingSec: 10_800 });
  });
});

describe('the observatory', () => {
  it.each([
    ['-31.62', -31.62],
    ['31.62 S', -31.62],
    ['−31,62', -31.62],
    ['70.1 w', -70.1],
    ['12', 12],
  ])('reads %s', (text, value) => expect(typedNumber(text, 'latitude')).toBeCloseTo(value, 9));
  it.each(['', 'south', '1.2.3'])('refuses "%s"', (text) =>
    expect(() => typedNumber(text, 'latitude')).toThrow(/latitude/),
  );
  it('tells the hemisphere by the noon sun', () =>
    expect([noonWords(179), noonWords(2)]).toEqual(['The noon sun is in the south', 'The noon sun is in the north']));
  it('works field and scale out, and doubts what is implausible', () => {
    const rig = {
      apertureMm: 106,
      focalLengthMm: 530,
      pixelUm: 3.76,
      widthPx: 4144,
      heightPx: 2822,
      mountKind: 'german_equatorial',
      flipAfterSec: 600,
      mountLimitAfterSec: 900,
    } as unknown as Rig;
    expect(rigFacts(rig)).toMatchObject({ scale: '1.46', focalRatio: 'f/5.0', doubts: [] });
    expect(rigFacts({ ...rig, focalLengthMm: 53 }).doubts).toEqual([
      'The focal ratio would be f/0.5: check focal length and aperture, both in mm.',
      'The image scale would be 14.63 ″ per pixel: check focal length and pixel size.',
    ]);
    expect(rigFacts({ ...rig, pixelUm: 376 }).doubts[0]).toBe(
      'A pixel of 376 µm is unusual: the value is in micrometres, one side.',
    );
    expect(rigFacts({ ...rig, flipAfterSec: 890 }).doubts[0]).toMatch(/mount/);
  });
});
