import { describe, expect, it } from '@jest/globals';
import type { NightPlan, NightWish, PlannedRun } from '@meridiem/core';
import { DEFAULT_ARRIVAL, MINUTE_MS, stayChain } from '@meridiem/core';
import type { PlanName } from './hand-changes.ts';
import type { NightSky } from './nights.ts';
import { panelName, panelWithin } from './panel-names.ts';
import type { StayPlace } from './shown-plan.ts';
import { hoursOfPlan, shownBlocks } from './shown-plan.ts';
import { shownWishes } from './shown-wishes.ts';

const SITE = { latitudeDeg: -31.2, longitudeDeg: -70.1, elevationM: 1900 };
const START = Date.parse('2029-01-13T00:00:00Z');
const sky = {
  viewStartUtcMs: START,
  viewEndUtcMs: START + 10 * 60 * MINUTE_MS,
  stepMs: 10 * MINUTE_MS,
} as unknown as NightSky;
const name = (goalId: string, panelId: string, place: Partial<PlanName> = {}): PlanName => ({
  goalId,
  panelId,
  panelName: `panel ${panelId}`,
  projectId: `project ${panelId}`,
  projectName: `Project ${panelId}`,
  ownerName: 'Ruan Aldous',
  filterLetter: goalId.toUpperCase(),
  filterClass: 'narrowband',
  groupOf: 0,
  raDeg: 110,
  decDeg: -40,
  ...place,
});
const run = (goalId: string, fromMin: number, count: number): PlannedRun => ({
  goalId,
  startUtcMs: START + fromMin * MINUTE_MS,
  endUtcMs: START + (fromMin + 5 * count) * MINUTE_MS,
  exposureSec: 290,
  exposureStartsUtcMs: Array.from({ length: count }, (_, i) => START + (fromMin + 5 * i) * MINUTE_MS),
  meanRateShare: 0.8,
});
const block = (panelId: string, fromMin: number, ...runs: PlannedRun[]): NightPlan['blocks'][number] => ({
  panelId,
  startUtcMs: START + fromMin * MINUTE_MS,
  endUtcMs: runs.at(-1)!.endUtcMs,
  runs,
});
const plan = {
  blocks: [
    block('p', 0, run('a', 2, 6), run('b', 32, 4)),
    block('q', 54, run('c', 56, 12)),
    block('r', 140, run('d', 142, 12)),
  ],
};
const names = [name('a', 'p'), name('b', 'p'), name('c', 'q'), name('d', 'r', { raDeg: null, decDeg: null })];
const shown = (parts: Partial<Parameters<typeof shownBlocks>[0]> = {}) =>
  shownBlocks({ site: SITE, flips: true, sky, names, plan, taken: [], ...parts });

describe('a plan as it is shown', () => {
  it('has each stay with its names and an altitude for every step of the axis', () => {
    const [p, q, r] = shown();
    expect([p.panelName, q.projectName, r.ownerName]).toEqual(['panel p', 'Project q', 'Ruan Aldous']);
    expect(p.runs.map(({ filterLetter, count }) => `${filterLetter} × ${count}`)).toEqual(['A × 6', 'B × 4']);
    expect(p.altitudeDeg).toHaveLength(61);
    for (const altitude of p.altitudeDeg) expect(Math.abs(altitude)).toBeLessThanOrEqual(90);
    // No position is none, not zero.
    expect(r.altitudeDeg).toEqual([]);
    expect(r.flipUtcMs).toBeNull();
  });

  it('says of a stay whose filters should alternate that they could not', () => {
    const alternating = names.map((one) => ({ ...one, groupOf: 2 }));
    const notAlternating = (...runs: PlannedRun[]) =>
      shown({ names: alternating, plan: { blocks: [block('p', 0, ...runs)] } })[0].notAlternating;
    expect(notAlternating(run('a', 2, 6), run('b', 32, 4))).toBe(true);
    expect(notAlternating(run('a', 2, 2), run('b', 12, 2), run('a', 22, 2), run('b', 32, 2))).toBe(false);
    // A group of each is all there is.
    expect(notAlternating(run('a', 2, 2), run('b', 12, 2))).toBe(false);
    expect(notAlternating(run('a', 2, 6))).toBe(false);
    expect(shown()[0].notAlternating).toBe(false);
  });

  it('marks the flip only inside a stay, and only where the mount turns over', () => {
    const whole = { blocks: [block('p', 0, run('a', 2, 110))] };
    const [{ flipUtcMs, altitudeDeg }] = shown({ plan: whole });
    expect(flipUtcMs).toBeGreaterThan(START);
    // The target culminates at the flip.
    const step = Math.round((flipUtcMs! - START) / sky.stepMs);
    expect(altitudeDeg[step]).toBeCloseTo(Math.max(...altitudeDeg), 0);
    expect(shown({ plan: whole, flips: false })[0].flipUtcMs).toBeNull();
    const before = { blocks: [block('p', 0, run('a', 2, Math.floor((flipUtcMs! - START) / MINUTE_MS / 5) - 2))] };
    expect(shown({ plan: before })[0].flipUtcMs).toBeNull();
  });

  it('counts the exposures taken that belong to a run', () => {
    const at = (fromMin: number) => START + fromMin * MINUTE_MS;
    const taken = [
      { goalId: 'a', startUtcMs: at(2) - 20_000 },
      { goalId: 'a', startUtcMs: at(27) },
      { goalId: 'a', startUtcMs: at(200) },
      { goalId: 'b', startUtcMs: at(10) },
    ];
    expect(shown({ taken })[0].runs.map((one) => one.taken)).toEqual([2, 0]);
  });

  it('tells a rig’s own steps around waits of more than five minutes', () => {
    const own = [
      { moment: 'before_wait', words: 'cover the mirror' },
      { moment: 'after_wait', words: 'look at the sky' },
    ] as const;
    const parked = { stow: null, roofClears: 'stowed' } as const;
    const chain = (_: string, { before, after, isLast }: StayPlace) =>
      stayChain({
        switches: DEFAULT_ARRIVAL,
        rotates: false,
        own,
        waitsBefore: before,
        waitsAfter: after,
        parking: isLast ? parked : null,
      });
    const [p, q, r] = shown({ chain });
    expect([p, q, r].map(({ leaving }) => leaving.includes('cover the mirror'))).toEqual([false, true, false]);
    expect([p, q, r].map(({ leaving }) => leaving.includes('park'))).toEqual([false, false, true]);
    expect([p, q, r].map(({ arriving }) => arriving[0])).toEqual([
      'slew and settle',
      'slew and settle',
      'look at the sky',
    ]);
    expect(shown()[0]).toMatchObject({ arriving: [], leaving: [] });
  });

  it('leaves out stays whose panel the viewer doesn’t know by name', () =>
    expect(shown({ names: names.slice(0, 3) }).map(({ panelId }) => panelId)).toEqual(['p', 'q']));

  it('is nothing where nothing is planned', () => {
    expect(shown({ plan: { blocks: [] } })).toEqual([]);
    expect(hoursOfPlan({ blocks: [] })).toEqual({ exposingHours: 0, overheadHours: 0 });
  });

  it('adds up what is exposed and what is spent beside it', () => {
    const { exposingHours, overheadHours } = hoursOfPlan(plan);
    expect(exposingHours).toBeCloseTo((34 * 290) / 3600, 9);
    expect(exposingHours + overheadHours).toBeCloseTo((52 + 62 + 62) / 60, 9);
  });
});

describe('hand changes as they are shown', () => {
  const wishes: NightWish[] = [
    { id: '1', kind: 'pin', goalId: 'b', startUtcMs: START, count: 9 },
    { id: '2', kind: 'ban', panelId: 'q' },
    { id: '3', kind: 'not_before', panelId: 'p', utcMs: START + 1 },
    { id: '4', kind: 'ban', panelId: 'of somebody else' },
  ];
  it('have the names of what they hold for, and what of them can’t be kept', () => {
    const rows = shownWishes(wishes, names, [{ wishId: '1', code: 'NOTHING_LEFT', kept: 4, asked: 9 }]);
    expect(
      rows.map(({ id, panelName: panel, filterLetter, utcMs, count }) => [id, panel, filterLetter, utcMs, count]),
    ).toEqual([
      ['1', 'panel p', 'B', START, 9],
      ['2', 'panel q', null, null, null],
      ['3', 'panel p', null, START + 1, null],
    ]);
    expect(rows.map(({ broken }) => broken)).toEqual([{ code: 'NOTHING_LEFT', kept: 4, asked: 9 }, null, null]);
  });
});

describe('panels', () => {
  it('are numbered where there are several', () => {
    expect(panelName('Veil', 1, 1)).toBe('Veil');
    expect(panelName('Veil', 2, 6)).toBe('Veil, panel 2');
  });
  it('are called short where their project is known', () => {
    for (let number = 1; number < 30; number++)
      expect(panelWithin('Veil 2', panelName('Veil 2', number, 30))).toBe(`panel ${number}`);
    expect(panelWithin('Veil', 'Veil 7')).toBe('panel 7');
    for (const own of ['Veil', 'Veil, east', 'Veil 7b', 'Witch’s broom']) expect(panelWithin('Veil', own)).toBe(own);
  });
});
