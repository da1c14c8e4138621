import { describe, expect, it } from '@jest/globals';
import { nightInstance } from '../../../../../bench/instances.ts';
import { nightDatePlus, observingNight } from '../../time/nights.ts';
import { consequencesOf } from './consequences.ts';
import type { SeasonRequest } from './season-of-nights.ts';

const OPTIONS = { seed: 1, seconds: 0.2, boundRounds: 0, draws: 60, persistence: 0.3 };
const request = nightInstance({ seed: 5, goals: 12, night: 40 });
const nights = Array.from({ length: 14 }, (_, i) => ({
  night: observingNight(nightDatePlus(request.night.nightDate, i), request.timeZone),
  odds: 0.6,
}));
const [asked] = request.projects;

/** @param times what the project asked for wants, times so much */
function seasonWith(times: number | null): SeasonRequest {
  const panels = request.panels.filter(({ projectId }) => times !== null || projectId !== asked.id);
  const goals = request.goals
    .filter(({ panelId }) => panels.some(({ id }) => id === panelId))
    .map((goal) =>
      request.panels.find(({ id }) => id === goal.panelId)!.projectId === asked.id && goal.wanted !== null
        ? { ...goal, toPlan: goal.toPlan * (times ?? 1), wanted: goal.wanted * (times ?? 1) }
        : goal,
    );
  const projects = request.projects
    .filter(({ id }) => times !== null || id !== asked.id)
    .map((project) => (project.id === asked.id && times !== null && times > 1 ? { ...project, weight: 8 } : project));
  return { rigs: [{ rigId: 'rig', request: { ...request, projects, panels, goals }, acceptance: {} }], nights };
}

describe('the consequences of a project', () => {
  const of = (times: number) =>
    consequencesOf({ projectId: asked.id, withProject: seasonWith(times), without: seasonWith(null) }, OPTIONS)!;

  it('say when it would end, and compare everybody else', () => {
    const { own, delays, lastNight } = of(1);
    expect(own.projectId).toBe(asked.id);
    expect(delays.map(({ projectId }) => projectId).sort()).toEqual(request.projects.slice(1).map(({ id }) => id).sort()); // prettier-ignore
    expect(lastNight).toBe(nights.at(-1)!.night.nightDate);
  });

  it('delay others where it takes much at a high grade', () => {
    const worst = (times: number): number => Math.max(...of(times).delays.map((d) => d.finishedShareWithout - d.finishedShareWith)); // prettier-ignore
    expect(of(40).delays.some(({ isNoticeable }) => isNoticeable)).toBe(true);
    expect(worst(40)).toBeGreaterThan(0);
  });

  it('are nobody’s where nothing changes', () => {
    const alike = consequencesOf({ projectId: request.projects[1].id, withProject: seasonWith(1), without: seasonWith(1) }, OPTIONS)!; // prettier-ignore
    expect(alike.delays.every(({ isNoticeable, nights: later }) => !isNoticeable && (later === 0 || later === null))).toBe(true); // prettier-ignore
  });

  it('of more hours for a project that is granted already compare it with what it has, and delay nobody by itself', () => {
    const [rig] = seasonWith(1).rigs;
    const narrow: SeasonRequest = {
      rigs: [{ ...rig, envelopeHours: { [asked.id]: { dark: 0.2, bright: 0 } } }],
      nights,
    };
    const { own, delays } = consequencesOf(
      { projectId: asked.id, withProject: seasonWith(1), without: narrow },
      OPTIONS,
    )!;
    expect(delays.map(({ projectId }) => projectId)).not.toContain(asked.id);
    const before = consequencesOf({ projectId: asked.id, withProject: narrow, without: narrow }, OPTIONS)!.own;
    expect(own.expectedHours).toBeGreaterThan(before.expectedHours);
    expect(before.expectedHours).toBeLessThan(0.3);
  });

  it('are stopped when told to, in any of the seasons compared', () => {
    const compared = { projectId: asked.id, withProject: seasonWith(1), without: seasonWith(null) };
    for (const most of [0.1, 0.4, 0.7]) expect(consequencesOf(compared, OPTIONS, (share) => share > most)).toBeNull();
    const told: number[] = [];
    consequencesOf(compared, OPTIONS, (share) => told.push(share) < 0);
    expect(told.every((share, i) => i === 0 || share >= told[i - 1])).toBe(true);
    expect(told.at(-1)).toBeGreaterThan(0.9);
  });
});
