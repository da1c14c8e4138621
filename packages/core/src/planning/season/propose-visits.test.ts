// Visits proposed: worth their cost, on the best of the nights tried, never where nothing is gained.
import { describe, expect, it } from '@jest/globals';
import { nightInstance } from '../../../../../bench/instances.ts';
import { nightDatePlus, observingNight } from '../../time/nights.ts';
import { iterationsFor } from './budget.ts';
import { planSeason } from './plan-season.ts';
import { proposeVisits } from './propose-visits.ts';
import type { SeasonVisit } from './rig-visits.ts';
import type { SeasonRequest, SeasonRig } from './season-of-nights.ts';
import { seasonOfNights } from './season-of-nights.ts';

const night = nightInstance({ seed: 5, goals: 16, night: 40 });
const panelAngle = new Map(
  night.panels.map(({ projectId, id }) => [id, projectId === night.projects[0].id ? 20 : 110]),
);
const rig: SeasonRig = {
  rigId: 'rig',
  acceptance: {},
  request: {
    ...night,
    rig: { ...night.rig, rotatorKind: 'hand', skyAngleDeg: 20, angleToleranceDeg: 2 },
    panels: night.panels.map((panel) => ({ ...panel, positionAngleDeg: panelAngle.get(panel.id)! })),
  },
};
const nights: SeasonRequest['nights'] = Array.from({ length: 14 }, (_, i) => ({
  night: observingNight(nightDatePlus(night.night.nightDate, i), night.timeZone),
  odds: 0.6,
}));
const request: SeasonRequest = { rigs: [rig], nights };
const OPTIONS = { seed: 1, secondsEach: 0.1, costHours: 0.5, apartNights: 10, visitNights: [] };
const tonight = night.night.nightDate;

describe('visits that are proposed', () => {
  const proposed = proposeVisits(request, OPTIONS)!;

  it('turn the camera to where most of the work waits', () => {
    expect(proposed).toHaveLength(1);
    const [{ nightDate, isPlanned, jobs }] = proposed;
    expect(isPlanned).toBe(false);
    expect(nightDate > tonight).toBe(true);
    expect(jobs[0]).toMatchObject({ rigId: 'rig', skyAngleDeg: 110, fits: null, removes: null });
    expect(jobs[0].gainHours).toBeGreaterThan(OPTIONS.costHours);
    const unlocked = jobs[0].hours.filter(({ hours }) => hours > 0).map(({ projectId }) => projectId);
    expect(unlocked.length).toBeGreaterThan(0);
    expect(unlocked).not.toContain(night.projects[0].id);
  });

  it('say what a season planned with them really gains', () => {
    const [{ nightDate, jobs }] = proposed;
    const valueWith = (visits: readonly SeasonVisit[]): number => {
      const { problem } = seasonOfNights({ rigs: [{ ...rig, visits }], nights });
      return planSeason(problem, { seed: 1, iterations: iterationsFor(problem, OPTIONS.secondsEach) }).value;
    };
    const gained = valueWith([{ nightDate, skyAngleDeg: 110, fits: [], removes: [] }]) - valueWith([]);
    expect(jobs[0].gainHours).toBeCloseTo(gained, 6);
  });

  it('are none where a visit costs more than it gains, or a motor turns the camera', () => {
    expect(proposeVisits(request, { ...OPTIONS, costHours: 1000 })).toEqual([]);
    const motor = { ...rig, request: { ...rig.request, rig: { ...rig.request.rig, rotatorKind: 'motor' as const } } };
    expect(proposeVisits({ rigs: [motor], nights }, OPTIONS)).toEqual([]);
  });

  it('join a visit that is planned, at no further cost, where that gains most; and keep their distance from it', () => {
    const planned = nightDatePlus(tonight, 2);
    const joined = proposeVisits(request, { ...OPTIONS, costHours: 5, visitNights: [planned] })!;
    expect(joined.map(({ nightDate, isPlanned }) => ({ nightDate, isPlanned }))).toEqual([{ nightDate: planned, isPlanned: true }]); // prettier-ignore
    for (const { nightDate } of proposeVisits(request, { ...OPTIONS, visitNights: [planned] })!)
      expect(nightDate === planned || nightDate >= nightDatePlus(planned, OPTIONS.apartNights)).toBe(true);
  });

  it('put a filter that goals wait for in the place of the one with least left', () => {
    const counts = new Map<string, number>();
    for (const { filterId, toPlan, settings } of rig.request.goals)
      counts.set(filterId, (counts.get(filterId) ?? 0) + toPlan * settings.exposureSec);
    const [most] = [...counts].toSorted((a, b) => b[1] - a[1])[0];
    const motor = { ...rig.request, rig: { ...rig.request.rig, rotatorKind: 'motor' as const } };
    const missing = { rigs: [{ ...rig, request: motor, notFitted: [most] }], nights };
    const [{ jobs }] = proposeVisits(missing, { ...OPTIONS, costHours: 0.2 })!;
    expect(jobs[0].fits).toBe(most);
    const least = rig.request.filters.filter(({ id }) => id !== most).toSorted((a, b) => (counts.get(a.id) ?? 0) - (counts.get(b.id) ?? 0))[0]; // prettier-ignore
    expect(counts.get(jobs[0].removes!) ?? 0).toBe(counts.get(least.id) ?? 0);
  });

  it('are on the best of all nights, tried one by one, or within what a search can tell apart', () => {
    const valueWith = (visits: readonly SeasonVisit[]): number => {
      const { problem } = seasonOfNights({ rigs: [{ ...rig, visits }], nights });
      return planSeason(problem, { seed: 1, iterations: iterationsFor(problem, OPTIONS.secondsEach) }).value;
    };
    const before = valueWith([]);
    const gains = nights.slice(1).map(({ night: { nightDate } }) => valueWith([{ nightDate, skyAngleDeg: 110, fits: [], removes: [] }]) - before); // prettier-ignore
    const best = Math.max(...gains);
    expect(proposed[0].jobs[0].gainHours).toBeLessThanOrEqual(best + 1e-9);
    expect(proposed[0].jobs[0].gainHours).toBeGreaterThan(0.85 * best);
  });

  it('are the same again, and nothing where the work is stopped', () => {
    expect(proposeVisits(request, OPTIONS)).toEqual(proposed);
    expect(proposeVisits(request, OPTIONS, () => true)).toBeNull();
  });
});
