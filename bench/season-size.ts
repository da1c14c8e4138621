// How long a season takes from its request to its dates, and how much memory: 40 projects on two rigs over 60 nights. npm run bench:season-size
import type { NightRequest, SeasonRequest } from '@meridiem/core';
import { nightDatePlus, observingNight, seasonOfNights, seasonOutlook } from '@meridiem/core';
import { nightInstance } from './instances.ts';

const NIGHTS = 60;
const PROJECTS_A_RIG = 20;
/** As the application asks for it. */
const OPTIONS = { seed: 1, seconds: 8, boundRounds: 200, draws: 200, persistence: 0.35 };

/** The first projects of a large realistic night, ids of their own. */
function rigOf(name: string, seed: number): SeasonRequest['rigs'][number] {
  const night = nightInstance({ seed, goals: 150, night: 40 });
  const projects = night.projects.slice(0, PROJECTS_A_RIG);
  const kept = new Set(projects.map(({ id }) => id));
  const panels = night.panels.filter(({ projectId }) => kept.has(projectId));
  const own = new Set(panels.map(({ id }) => id));
  const request: NightRequest = {
    ...night,
    projects: projects.map((project) => ({ ...project, id: `${name} ${project.id}` })),
    panels: panels.map((panel) => ({ ...panel, id: `${name} ${panel.id}`, projectId: `${name} ${panel.projectId}` })),
    goals: night.goals
      .filter(({ panelId }) => own.has(panelId))
      .map((goal) => ({ ...goal, id: `${name} ${goal.id}`, panelId: `${name} ${goal.panelId}` })),
  };
  return { rigId: name, request, acceptance: {} };
}

const rigs = [rigOf('one', 8), rigOf('two', 9)];
const [{ request: first }] = rigs;
const request: SeasonRequest = {
  rigs,
  nights: Array.from({ length: NIGHTS }, (_, i) => ({
    night: observingNight(nightDatePlus(first.night.nightDate, i - NIGHTS / 2), first.timeZone),
    odds: 0.55,
  })),
};

const seconds = (from: number): string => ((performance.now() - from) / 1000).toFixed(1);
let at = performance.now();
const { problem } = seasonOfNights(request);
console.log(
  `${problem.projects.length} projects, ${problem.goals.length} goals, ${problem.lanes.length} lanes: surveyed in ${seconds(at)} s`,
);
at = performance.now();
let firstTold: string | null = null;
const season = seasonOutlook(request, OPTIONS, () => {
  firstTold ??= seconds(at);
  return false;
});
console.log(
  `season with its bound and ${OPTIONS.draws} seasons played: ${seconds(at)} s, first told after ${firstTold} s; ${((100 * season!.value) / season!.bound!).toFixed(1)} % of its bound; ${Math.round(process.memoryUsage.rss() / 1e6)} MB`,
);
