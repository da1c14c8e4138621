import { describe, expect, it } from '@jest/globals';
import { nightInstance } from '../../../../../bench/instances.ts';
import { nightDatePlus, observingNight } from '../../time/nights.ts';
import type { OtherRig } from './other-rig.ts';
import { movedToRig } from './other-rig.ts';
import type { SeasonRequest } from './season-of-nights.ts';
import { seasonOfNights } from './season-of-nights.ts';
import { whatHelps } from './what-helps.ts';

const night = nightInstance({ seed: 5, goals: 16, night: 40 });
const projectId = night.projects[0].id;
const own = night.goals.filter(({ panelId }) => night.panels.find(({ id }) => id === panelId)!.projectId === projectId);
const { detector } = night.rig;
/** Twice the aperture and twice the focal length: four times the light, and as much of it on a pixel. */
const large = { ...night.rig, rotatorKind: 'motor' as const, detector: { ...detector, apertureMm: 2 * detector.apertureMm, focalLengthMm: 2 * detector.focalLengthMm } }; // prettier-ignore
const seasonOf = (rig: typeof night.rig, nights = 8): SeasonRequest => ({
  rigs: [
    { rigId: 'busy', request: night, acceptance: { [projectId]: 0.8 }, lastNight: { [projectId]: '2030-01-01' }, envelopeHours: { [projectId]: { dark: 40, bright: 40 } } }, // prettier-ignore
    { rigId: 'free', request: { ...night, rig, projects: [], panels: [], goals: [] }, acceptance: {} },
  ],
  nights: Array.from({ length: nights }, (_, i) => ({
    night: observingNight(nightDatePlus(night.night.nightDate, i), night.timeZone),
    odds: 0.6,
  })),
});
const free: OtherRig = {
  rigId: 'free',
  recipes: Object.fromEntries(night.filters.map(({ id }) => [id, { binning: own[0].binning, readNoiseE: 2 }])),
};

describe('a project on another rig', () => {
  it('wants the same light there: as long exposures where a pixel gets as much, a quarter as many of four times the light', () => {
    const [busy, other] = movedToRig(seasonOf(large), projectId, free)!.rigs;
    expect(busy.request.projects.map(({ id }) => id)).not.toContain(projectId);
    expect(busy.request.goals).toHaveLength(night.goals.length - own.length);
    expect(other.request.projects.map(({ id }) => id)).toEqual([projectId]);
    other.request.goals.forEach((goal, i) => {
      expect([goal.id, goal.readNoiseE, goal.settings.exposureSec]).toEqual([own[i].id, 2, own[i].settings.exposureSec]); // prettier-ignore
      expect(goal.toPlan).toBe(Math.ceil(own[i].toPlan / 4));
      expect(goal.wanted).toBeCloseTo(own[i].wanted! / 4, 9);
    });
    expect([other.acceptance, other.lastNight, other.envelopeHours]).toEqual([{ [projectId]: 0.8 }, { [projectId]: '2030-01-01' }, { [projectId]: { dark: 40, bright: 40 } }]); // prettier-ignore
    expect(seasonOfNights(movedToRig(seasonOf(large, 1), projectId, free)!).projectIds).toContain(projectId);
  });

  it('has shorter exposures where a pixel gets more light', () => {
    const fast = { ...large, detector: { ...detector, apertureMm: 2 * detector.apertureMm } };
    const [, other] = movedToRig(seasonOf(fast), projectId, free)!.rigs;
    other.request.goals.forEach((goal, i) => {
      expect(Math.abs(goal.settings.exposureSec - own[i].settings.exposureSec / 4)).toBeLessThanOrEqual(2.5);
      const [sec, wasSec] = [goal, own[i]].map(({ toPlan, settings }) => toPlan * settings.exposureSec);
      expect(Math.abs(sec - wasSec / 4)).toBeLessThan(2 * goal.settings.exposureSec);
    });
  });

  it('is offered only where its recipes map, its angle is served, and it is there alone', () => {
    const season = seasonOf(large);
    expect(movedToRig(season, projectId, { rigId: 'free', recipes: {} })).toBeNull();
    expect(movedToRig(season, projectId, { ...free, rigId: 'busy' })).toBeNull();
    expect(movedToRig(season, 'none', free)).toBeNull();
    const { positionAngleDeg } = night.panels.find((panel) => panel.projectId === projectId)!;
    const fixedAt = (skyAngleDeg: number) => seasonOf({ ...large, rotatorKind: 'none' as never, angleToleranceDeg: 2, skyAngleDeg }); // prettier-ignore
    expect(movedToRig(fixedAt(positionAngleDeg + 45), projectId, free)).toBeNull();
    expect(movedToRig(fixedAt(positionAngleDeg + 180), projectId, free)).not.toBeNull();
    const goals = night.goals.map((goal) => (goal.id === own[0].id ? { ...goal, comesWith: 'another' } : goal));
    const joined = { ...season, rigs: [{ ...season.rigs[0], request: { ...night, goals } }, season.rigs[1]] };
    expect(movedToRig(joined, projectId, free)).toBeNull();
  });

  it('helps where its own rig is full and the other is free, by how often it is finished', () => {
    const options = { seed: 1, seconds: 0.3, boundRounds: 0, draws: 40, persistence: 0.3 };
    const longest = night.projects[2].id;
    const { helps, asIs } = whatHelps(seasonOf(large, 4), longest, options, undefined, [free])!;
    const there = helps.find(({ key }) => key === 'otherRig');
    expect(there).toMatchObject({ rigId: 'free' });
    expect(there!.forecast.finishedShare).toBeGreaterThan(asIs.finishedShare);
    const none = whatHelps(seasonOf(large, 4), longest, options, undefined, [])!;
    expect([...none.helps.map(({ key }) => key), ...none.useless]).not.toContain('otherRig');
  });
});
