import { describe, expect, it } from '@jest/globals';
import { nightInstance } from '../../../../../bench/instances.ts';
import { nightDatePlus, observingNight } from '../../time/nights.ts';
import { consequencesOf, seasonDifference } from './consequences.ts';
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

describe('the difference that hours make', () => {
  const [mine, theirs] = request.projects;
  /** Two members with one project each; one has been charged much more than they were entitled to, or much less. */
  function seasonOf(aheadHours: number): SeasonRequest {
    const panels = request.panels.filter(({ projectId }) => [mine.id, theirs.id].includes(projectId));
    const goals = request.goals
      .filter(({ panelId }) => panels.some(({ id }) => id === panelId))
      .map((goal) => (goal.wanted === null ? goal : { ...goal, toPlan: goal.toPlan * 3, wanted: goal.wanted * 3 }));
    const standing = (memberId: string, skyClass: 'dark' | 'bright', chargedHours: number) =>
      ({ memberId, rigId: 'rig', skyClass, share: 0.5, entitledHours: 20, chargedHours }); // prettier-ignore
    const standings = (['dark', 'bright'] as const).flatMap((sky) => [
      standing('mine', sky, 20 + aheadHours),
      standing('theirs', sky, 20 - aheadHours),
    ]);
    const shares = { fairness: 1, memberOf: { [mine.id]: 'mine', [theirs.id]: 'theirs' }, standings, weights: { dark: 1, bright: 0.5 } }; // prettier-ignore
    return { rigs: [{ rigId: 'rig', request: { ...request, projects: [mine, theirs], panels, goals }, acceptance: {} }], nights, shares }; // prettier-ignore
  }
  const taken = (ahead: number) => seasonDifference({ changed: seasonOf(ahead), asIs: seasonOf(0) }, OPTIONS)!;

  it('is nothing where none are moved, and is told of each project', () => {
    const { delays, draws, lastNight } = taken(0);
    expect(delays.map(({ projectId }) => projectId).sort()).toEqual([mine.id, theirs.id].sort());
    expect(delays.every(({ isNoticeable, isSooner }) => !isNoticeable && !isSooner)).toBe(true);
    expect([draws, lastNight]).toEqual([OPTIONS.draws, nights.at(-1)!.night.nightDate]);
  });

  it('is never later and sooner at once, and helps who is behind more than who is ahead', () => {
    const gain = (ahead: number, id: string): number => {
      const { finishedShareWith, finishedShareWithout, isNoticeable, isSooner } = taken(ahead).delays.find(({ projectId }) => projectId === id)!; // prettier-ignore
      expect(isNoticeable && isSooner).toBe(false);
      return finishedShareWith - finishedShareWithout;
    };
    expect(gain(-18, mine.id)).toBeGreaterThanOrEqual(gain(18, mine.id));
    expect(gain(18, theirs.id)).toBeGreaterThanOrEqual(gain(-18, theirs.id));
  });
});
