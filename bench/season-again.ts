// How much of a season stays where it is when it is planned again after a change, and what that costs: begun with the season before,
// against planned from nothing, in the same run. npm run bench:season-again
import type { Season, SeasonRequest } from '@meridiem/core';
import { keptShare, nightDatePlus, observingNight, seasonOutlook } from '@meridiem/core';
import { nightInstance } from './instances.ts';

const NIGHTS = 60;
const OPTIONS = { seed: 1, seconds: 8, boundRounds: 0, draws: 100, persistence: 0.35 };
const night = nightInstance({ seed: 8, goals: 350, night: 40 });
const PROJECTS = night.projects.map(({ id }) => id);
const USUAL = PROJECTS.slice(0, -2);

/** So many of the projects, from a night on, after some of their exposures have been taken. */
function request(projects: readonly string[], { fromNight = 0, taken = 0, odds = 0.55 } = {}): SeasonRequest {
  const kept = new Set(projects);
  const panels = night.panels.filter(({ projectId }) => kept.has(projectId));
  const own = new Set(panels.map(({ id }) => id));
  const goals = night.goals.filter(({ panelId }) => own.has(panelId)).map((goal, i) => ({ ...goal, toPlan: Math.max(0, goal.toPlan - (i % 5 === 0 ? taken : 0)) })); // prettier-ignore
  return {
    rigs: [{ rigId: 'rig', request: { ...night, projects: night.projects.filter(({ id }) => kept.has(id)), panels, goals }, acceptance: {} }], // prettier-ignore
    nights: Array.from({ length: NIGHTS }, (_, i) => ({
      night: observingNight(nightDatePlus(night.night.nightDate, fromNight + i - NIGHTS / 2), night.timeZone),
      odds,
    })),
  };
}

const exposureSec = new Map(night.goals.map((goal) => [goal.id, goal.settings.exposureSec]));
const middles = ({ projects }: Season): Map<string, string | null> => new Map(projects.map(({ projectId, middle }) => [projectId, middle])); // prettier-ignore
/** How many nights the middle date of a project moves, on the mean; what has none in one of the seasons is left out. */
function meanShift(before: Season, now: Season): number {
  const was = middles(before);
  const shifts = now.projects.flatMap(({ projectId, middle }) => {
    const then = was.get(projectId);
    return then && middle ? [Math.abs(Date.parse(middle) - Date.parse(then)) / 86_400_000] : [];
  });
  return shifts.reduce((sum, one) => sum + one, 0) / Math.max(1, shifts.length);
}

const before = seasonOutlook(request(USUAL), OPTIONS)!;
const changes: [string, SeasonRequest][] = [
  ['nothing', request(USUAL)],
  ['a night later, some exposures taken', request(USUAL, { fromNight: 1, taken: 3 })],
  ['one project more', request(PROJECTS.slice(0, -1))],
  ['one project less', request(PROJECTS.slice(0, -3))],
  ['other odds', request(USUAL, { odds: 0.45 })],
  ['a third fewer projects', request(PROJECTS.slice(0, Math.round((2 * PROJECTS.length) / 3)))],
];
for (const [words, changed] of changes) {
  const cold = seasonOutlook(changed, { ...OPTIONS, seed: 2 })!;
  const warm = seasonOutlook(changed, { ...OPTIONS, seed: 2, before })!;
  const said = (season: Season): string => `${(100 * keptShare(before, season, exposureSec)).toFixed(0)} % stays, dates move ${meanShift(before, season).toFixed(1)} nights`; // prettier-ignore
  console.log(`${words}: from nothing ${said(cold)}; begun with the season before ${said(warm)}; worth ${(100 * (warm.value / cold.value - 1)).toFixed(1)} % more`); // prettier-ignore
}
