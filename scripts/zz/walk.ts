import { readFileSync, writeFileSync, existsSync } from 'node:fs';
import { inflateRawSync } from 'node:zlib';
import { drawClearNights, iterationsFor, planSeason, playSeason, playTables, problemOfCase, seasonTables, seededRandom } from '@meridiem/core';
import { liveSeason } from '../../bench/season-life.ts';
const file = process.argv[2] ?? 'p40n60k1';
const given = JSON.parse(readFileSync(`packages/core/fixtures/season-cases/${file}.json`, 'utf8'));
const problem = problemOfCase(given, (r) => inflateRawSync(Buffer.from(r, 'base64')));
const nights = 1 + Math.max(...problem.lanes.map((l) => l.night));
const ODDS = 0.55, Q = 0.9, DRAWS = 20;
const clears = Array.from({ length: DRAWS }, (_, d) => drawClearNights(new Array(nights).fill(ODDS), 0.55, seededRandom(100 + d)));
const cache = `/tmp/lives-${file}.json`;
if (!existsSync(cache)) {
  const lives = clears.map((clear, d) => [...liveSeason(problem, (rest) => { const lanes = rest.lanes.filter((l) => l.night === rest.lanes[0].night); const one = { ...rest, lanes }; const { plan } = planSeason(one, { iterations: iterationsFor(one, 0.4), seed: 1 }); return rest.lanes.map((_, l) => plan[l] ?? []); }, { clear, random: seededRandom(d), acceptance: Q, odds: ODDS, persistence: 0.4 }).finished]);
  writeFileSync(cache, JSON.stringify(lives));
}
const lives: number[][] = JSON.parse(readFileSync(cache, 'utf8'));
const toTake = { ...problem, goals: problem.goals.map((g) => ({ ...g, wanted: g.wanted / Q, done: g.done / Q, count: Math.ceil(g.count / Q) })), lanes: problem.lanes.map((l) => ({ ...l, odds: ODDS })) };
const played = playTables(seasonTables(toTake));
const acceptance = new Float64Array(toTake.projects.length).fill(Q);
const { plan } = planSeason(toTake, { iterations: iterationsFor(toTake, 5), seed: 1 });
const expected = new Float64Array(toTake.goals.length);
plan.forEach((runs) => runs.forEach(({ goal, count }) => (expected[goal] += ODDS * count)));
const meant = Uint8Array.from(toTake.projects, (_, r) => Number(toTake.goals.every(({ panel, count }, g) => toTake.panels[panel].project !== r || expected[g] >= count - 0.5)));
for (const [name, isMeant] of [['meant', meant], ['none', new Uint8Array(meant.length)], ['all', new Uint8Array(meant.length).fill(1)]] as const) {
  let off = 0, abs = 0, n = 0, fin = 0, finL = 0;
  clears.forEach((clear, d) => {
    const ends = playSeason(played, { clear, random: seededRandom(d + 7), acceptance, isMeant });
    ends.forEach((e, r) => { const a = e < 0 ? nights : e, b = lives[d][r] < 0 ? nights : lives[d][r]; if (a === nights && b === nights) return; off += a - b; abs += Math.abs(a - b); n++; });
    fin += [...ends].filter((e) => e >= 0).length; finL += lives[d].filter((e) => e >= 0).length;
  });
  console.log(name, 'mean off', (off / n).toFixed(2), 'abs', (abs / n).toFixed(2), 'finished walk', fin / DRAWS, 'nightly', finL / DRAWS);
}
