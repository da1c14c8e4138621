import { nightInstance } from '../../bench/instances.ts';
import { drawClearNights, nightDatePlus, observingNight, seasonOfNights, seededRandom } from '@meridiem/core';
import { liveShared } from '../../packages/core/test/fair-life.ts';
const NIGHTS = 60;
const one = nightInstance({ seed: 8, goals: 24, night: 40 });
const copy = (tag: string) => ({
  projects: one.projects.map((p) => ({ ...p, id: p.id + tag, weight: 1 })),
  panels: one.panels.map((p) => ({ ...p, id: p.id + tag, projectId: p.projectId + tag })),
  goals: one.goals.map((g) => ({
    ...g,
    id: g.id + tag,
    panelId: g.panelId + tag,
    toPlan: 3 * g.toPlan,
    wanted: g.wanted === null ? null : g.wanted + 2 * g.toPlan,
  })),
});
const request = (tags: string[]) => {
  const all = tags.map(copy);
  return {
    ...one,
    projects: all.flatMap((a) => a.projects),
    panels: all.flatMap((a) => a.panels),
    goals: all.flatMap((a) => a.goals),
  };
};
const seasonFor = (tags: string[]) =>
  seasonOfNights({
    rigs: [{ rigId: 'r', request: request(tags), acceptance: {} }],
    nights: Array.from({ length: NIGHTS }, (_, i) => ({
      night: observingNight(nightDatePlus(one.night.nightDate, i - 20), one.timeZone),
      odds: 0.55,
    })),
  });
const scenario = (name: string, tags: string[], sharesOn: any) => {
  const t = performance.now();
  const season = seasonFor(tags);
  console.log(name, season.problem.goals.length, 'goals', (performance.now() - t).toFixed(0), 'ms survey');
  const memberOf = season.projectIds.map((id) => id.slice(-2, -1));
  for (const fairness of [0, 0.5, 1])
    for (const draw of [0, 1]) {
      const clear = drawClearNights(new Array(NIGHTS).fill(0.55), 0.35, seededRandom(50 + draw));
      const t1 = performance.now();
      const lived = liveShared({ problem: season.problem, memberOf, sharesOn, clear, fairness, iterations: 15000 });
      console.log(
        ' ',
        fairness,
        draw,
        'value',
        lived.value.toFixed(1),
        Object.entries(lived.members)
          .map(
            ([k, m]) =>
              `${k}: E ${m.entitled.toFixed(1)} D ${m.charged.toFixed(1)} (${(m.charged / m.entitled).toFixed(2)}) m ${m.multiplier.toFixed(2)}`,
          )
          .join('  '),
        ((performance.now() - t1) / 1000).toFixed(1),
        's',
      );
    }
};
scenario('equal', ['A1', 'B1', 'C1'], () => ({ A: 1, B: 1, C: 1 }));
scenario('3:1', ['A1', 'A2', 'A3', 'B1'], () => ({ A: 1, B: 1 }));
scenario('joins', ['A1', 'B1', 'C1'], (n: number) => (n < 20 ? { A: 1, B: 1 } : { A: 1, B: 1, C: 1 }));
