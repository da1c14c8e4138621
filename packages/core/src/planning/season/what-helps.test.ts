// What would help: each change really changes the season it is tried in, and nothing is said to help that does not.
import { describe, expect, it } from '@jest/globals';
import { nightInstance } from '../../../../../bench/instances.ts';
import { limitsInForce } from '../../limits/limit-values.ts';
import { nightDatePlus, observingNight } from '../../time/nights.ts';
import type { SeasonRequest } from './season-of-nights.ts';
import { LOWER_ALTITUDE_DEG, seasonWith, whatHelps } from './what-helps.ts';

const OPTIONS = { seed: 1, seconds: 0.3, boundRounds: 0, draws: 40, persistence: 0.3 };
const night = nightInstance({ seed: 5, goals: 16, night: 40 });
const projectId = night.projects[0].id;
const request: SeasonRequest = {
  rigs: [{ rigId: 'rig', request: night, acceptance: {} }],
  nights: Array.from({ length: 8 }, (_, i) => ({
    night: observingNight(nightDatePlus(night.night.nightDate, i), night.timeZone),
    odds: 0.5,
  })),
};
const withRig = (fields: Partial<SeasonRequest['rigs'][number]>): SeasonRequest => ({
  ...request,
  rigs: [{ ...request.rigs[0], ...fields }],
});
const nightDates = request.nights.map(({ night: { nightDate } }) => nightDate);

describe('a change that may help', () => {
  it('lowers the altitude of the project’s goals and of no others', () => {
    const changed = seasonWith(request, projectId, 'lowerAltitude')!;
    const classOf = new Map(night.filters.map((filter) => [filter.id, filter.class]));
    const floorOf = ({ request: one }: SeasonRequest['rigs'][number], g: number): number | null => {
      const goal = one.goals[g];
      const project = one.projects.find(({ id }) => id === one.panels.find((panel) => panel.id === goal.panelId)!.projectId)!; // prettier-ignore
      const stored = [...goal.limits, ...project.limits, ...one.observatoryLimits];
      return limitsInForce(stored, classOf.get(goal.filterId)!).minAltitudeDeg.value;
    };
    night.goals.forEach((goal, g) => {
      const isOwn = night.panels.find(({ id }) => id === goal.panelId)!.projectId === projectId;
      const before = floorOf(request.rigs[0], g)!;
      expect(floorOf(changed.rigs[0], g)).toBe(isOwn ? before - LOWER_ALTITUDE_DEG : before);
    });
  });

  it('is left out where there is nothing to change', () => {
    for (const key of ['moreHours', 'noDeadline', 'noClosures'] as const)
      expect(seasonWith(request, projectId, key)).toBeNull();
    expect(seasonWith(request, 'no project of these', 'putFirst')).toBeNull();
  });

  it('takes away a bound, a last night and closed nights where there are any', () => {
    const bounded = withRig({
      envelopeHours: { [projectId]: { dark: 1, bright: 1 }, other: { dark: 2, bright: 2 } },
      lastNight: { [projectId]: nightDates[1] },
      closed: [nightDates[0]],
    });
    expect(seasonWith(bounded, projectId, 'moreHours')!.rigs[0].envelopeHours).toEqual({
      other: { dark: 2, bright: 2 },
    });
    expect(seasonWith(bounded, projectId, 'noDeadline')!.rigs[0].lastNight).toEqual({});
    expect(seasonWith(bounded, projectId, 'noClosures')!.rigs[0].closed).toEqual([]);
  });

  it('turns a camera that only a hand can turn, and only where it does not serve the project', () => {
    const [rig] = request.rigs;
    const [{ positionAngleDeg }] = night.panels.filter((panel) => panel.projectId === projectId);
    const turnedTo = (skyAngleDeg: number): SeasonRequest =>
      withRig({ request: { ...rig.request, rig: { ...rig.request.rig, rotatorKind: 'hand', skyAngleDeg, angleToleranceDeg: 2 } } }); // prettier-ignore
    expect(seasonWith(turnedTo(positionAngleDeg + 181), projectId, 'turnCamera')).toBeNull();
    const changed = seasonWith(turnedTo(positionAngleDeg + 40), projectId, 'turnCamera')!;
    expect(changed.rigs[0].request.rig.skyAngleDeg).toBe(positionAngleDeg);
    const motor = withRig({ request: { ...rig.request, rig: { ...rig.request.rig, rotatorKind: 'motor' } } });
    expect(seasonWith(motor, projectId, 'turnCamera')).toBeNull();
  });

  it('leaves the rig to the project alone', () => {
    const { request: one } = seasonWith(request, projectId, 'rigAlone')!.rigs[0];
    expect(one.projects.map(({ id }) => id)).toEqual([projectId]);
    expect(new Set(one.panels.map((panel) => panel.projectId))).toEqual(new Set([projectId]));
    expect(one.goals.length).toBeGreaterThan(0);
  });
});

describe('what would help', () => {
  it('finds that an early last night and a narrow grant hold a project back', () => {
    const held = withRig({ lastNight: { [projectId]: nightDates[0] } });
    const { asIs, helps } = whatHelps(held, projectId, OPTIONS)!;
    const deadline = helps.find(({ key }) => key === 'noDeadline');
    expect(deadline).toBeDefined();
    expect(deadline!.forecast.expectedHours).toBeGreaterThan(asIs.expectedHours);
    const narrow = withRig({ envelopeHours: { [projectId]: { dark: 0.1, bright: 0 } } });
    expect(whatHelps(narrow, projectId, OPTIONS)!.helps.map(({ key }) => key)).toContain('moreHours');
  });

  it('names each change that was tried once, as a help or as none', () => {
    const { helps, useless } = whatHelps(request, projectId, OPTIONS)!;
    const keys = [...helps.map(({ key }) => key), ...useless];
    expect(new Set(keys).size).toBe(keys.length);
    expect(keys).toContain('putFirst');
  });

  it('says how far it is, and stops when told to', () => {
    const told: number[] = [];
    expect(whatHelps(request, projectId, OPTIONS, (share) => told.push(share) > 3)).toBeNull();
    expect(told.length).toBeLessThan(8);
    expect(told[0]).toBeLessThan(0.1);
  });
});
