import { readFileSync } from 'node:fs';
import { inflateRawSync } from 'node:zlib';
import { iterationsFor, planSeason, problemOfCase, seededRandom } from '@meridiem/core';
import { playSeason, playTables } from '../../packages/core/src/planning/season/play-season.ts';
import { seasonTables } from '../../packages/core/src/planning/season/season-tables.ts';
import { drawClearNights } from '../../packages/core/src/weather/clear-nights.ts';
const file = process.argv[2] ?? 'p40n60k1';
const seconds = Number(process.argv[3] ?? 5);
const given = JSON.parse(readFileSync(`packages/core/fixtures/season-cases/${file}.json`, 'utf8'));
const base = problemOfCase(given, (r) => inflateRawSync(Buffer.from(r, 'base64')));
const ODDS = Number(process.argv[4] ?? 0.55);
const Q = 0.85;
const problem = {
  ...base,
  goals: base.goals.map((g) => ({
    ...g,
    wanted: g.wanted / Q,
    done: g.done / Q,
    count: Math.ceil(g.count / Q - 1e-9),
  })),
  lanes: base.lanes.map((l) => ({ ...l, odds: ODDS })),
};
const nights = 1 + Math.max(...problem.lanes.map((l) => l.night));
console.log(given.name, nights, 'nights', problem.projects.length, 'projects');
const { plan } = planSeason(problem, { iterations: iterationsFor(problem, seconds), seed: 1 });
const tables = seasonTables(problem);
const expected = new Float64Array(problem.goals.length);
plan.forEach((runs, l) => runs.forEach(({ goal, count }) => (expected[goal] += count * problem.lanes[l].odds)));
const isMeant = Uint8Array.from(problem.projects, (_, r) =>
  Number(problem.goals.every((g, i) => problem.panels[g.panel].project !== r || expected[i] >= g.count - 0.5)),
);
console.log(
  'meant',
  isMeant.reduce((a, b) => a + b, 0),
);
const played = playTables(tables);
const acceptance = new Float64Array(problem.projects.length).fill(Q);
const odds = new Array(nights).fill(ODDS);
const run = (persistence: number, n: number, seed: number) => {
  const random = seededRandom(seed);
  return Array.from({ length: n }, () =>
    playSeason(played, { clear: drawClearNights(odds, persistence, random), random, acceptance, isMeant }),
  );
};
const t = performance.now();
const LIMIT = Number(process.argv[6] ?? 0.82);
const DRAWS = Number(process.argv[5] ?? 200);
const ASSUMED = 0.4;
for (const assumed of [ASSUMED, 0]) {
  const draws = run(assumed, DRAWS, 1);
  const ranges = problem.projects.map((_, r) => {
    const ends = draws.map((d) => (d[r] < 0 ? Infinity : d[r])).sort((a, b) => a - b);
    let [a, b] = [Math.ceil(0.1 * DRAWS) - 1, Math.ceil(0.9 * DRAWS) - 1];
    let [early, late] = [ends[a], ends[b]];
    const cov = (e: number, l: number) => ends.filter((x) => x >= e && x <= l).length / DRAWS;
    if (late < Infinity)
      for (;;) {
        const up = ends.find((x) => x > early)!;
        const down = ends.findLast((x) => x < late)!;
        const options = (
          [
            [up, late],
            [early, down],
          ] as const
        )
          .filter(([x, y]) => x <= y)
          .map(([x, y]) => ({ x, y, c: cov(x, y) }))
          .sort((p, q) => q.c - p.c);
        if (!options.length || options[0].c < LIMIT) break;
        early = options[0].x;
        late = options[0].y;
      }
    return { early, late, mean: ends.reduce((a, b) => a + Math.min(b, nights), 0) / DRAWS, ends };
  });
  for (const truth of [ASSUMED - 0.15, ASSUMED, ASSUMED + 0.15]) {
    const world = run(truth, 500, 77);
    let inside = 0,
      all = 0,
      below = 0,
      above = 0;
    let dates = 0,
      n = 0;
    ranges.forEach(({ early, late, mean }, r) => {
      if (late === Infinity) return;
      n++;
      dates += Math.abs(mean - world.reduce((a, d) => a + (d[r] < 0 ? nights : d[r]), 0) / 500);
      for (const d of world) {
        const e = d[r] < 0 ? Infinity : d[r];
        all++;
        if (e < early) below++;
        else if (e > late) above++;
        else inside++;
      }
    });
    console.log({
      assumed,
      truth,
      projects: n,
      inside: ((100 * inside) / all).toFixed(1),
      below: ((100 * below) / all).toFixed(1),
      above: ((100 * above) / all).toFixed(1),
      meanOff: (dates / n).toFixed(2),
    });
  }
}
console.log(((performance.now() - t) / 4000).toFixed(2), 'ms a season');
