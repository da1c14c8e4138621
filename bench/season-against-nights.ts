// Seasons lived through under drawn weather: nights planned one by one, nights with the season's prices, and a season planned again each evening; and whether finishing dates hold. npm run bench:season [-- --draws N --seconds N]
import { readFileSync } from 'node:fs';
import { parseArgs } from 'node:util';
import { inflateRawSync } from 'node:zlib';
import type { SeasonCase, SeasonPlan, SeasonProblem } from '@meridiem/core';
import {
  drawClearNights,
  finishingRange,
  iterationsFor,
  planSeason,
  playSeason,
  playTables,
  problemOfCase,
  seasonBound,
  seasonTables,
  seededRandom,
} from '@meridiem/core';
import type { Evening, LivedSeason } from './season-life.ts';
import { liveSeason } from './season-life.ts';

const { values } = parseArgs({
  options: {
    draws: { type: 'string', default: '20' },
    seconds: { type: 'string', default: '0.4' },
    case: { type: 'string', default: 'p40n60k1' },
  },
});
const draws = Number(values.draws);
const seconds = Number(values.seconds);
const ODDS = 0.55;
const ASSUMED_PERSISTENCE = 0.4;
const PERSISTENCE = 0.55;
const ACCEPTANCE = 0.9;
const SEASONS_PLAYED = 500;
/** What a later night's odds count for a season that is planned again each evening: 0.9 a night. */
const LATER = 0.9;
/** Nights after which prices are found again. */
const PRICES_HOLD = 3;

const given = JSON.parse(
  readFileSync(new URL(`../packages/core/fixtures/season-cases/${values.case}.json`, import.meta.url), 'utf8'),
) as SeasonCase;
const problem = problemOfCase(given, (rates) => inflateRawSync(Buffer.from(rates, 'base64')));
const nights = 1 + Math.max(...problem.lanes.map(({ night }) => night));

const tonightOf = ({ lanes }: SeasonProblem) => lanes.filter(({ night }) => night === lanes[0].night);
const plannedAlone = (rest: SeasonProblem, one: SeasonProblem): SeasonPlan => {
  const { plan } = planSeason(one, { iterations: iterationsFor(one, seconds), seed: 1 });
  return rest.lanes.map((_, l) => plan[l] ?? []);
};

/** As the application plans a night: for itself. */
const alone = (): Evening => (rest) => plannedAlone(rest, { ...rest, lanes: tonightOf(rest) });

/** The same, each exposure less what it takes from nights to come. */
function priced(): Evening {
  let known: { night: number; count: Float64Array } | null = null;
  return (rest) => {
    const [{ night }] = rest.lanes;
    if (!known || night - known.night >= PRICES_HOLD)
      known = { night, count: seasonBound(rest, { rounds: 0, slotRounds: 60, coarseRounds: 0, reached: 0 }).duals.count }; // prettier-ignore
    const { count } = known;
    const lanes = tonightOf(rest).map((lane) => {
      const rates = new Float32Array(rest.goals.length * lane.slots);
      rest.goals.forEach(({ row, value }, g) => {
        for (let slot = 0; slot < lane.slots; slot++) {
          const rate = lane.rates[row * lane.slots + slot];
          rates[g * lane.slots + slot] = rate > 0 ? Math.max(1e-3, rate - count[g] / value) : 0;
        }
      });
      return { ...lane, rates };
    });
    return plannedAlone(rest, { ...rest, goals: rest.goals.map((goal, row) => ({ ...goal, row })), lanes });
  };
}

/** The whole season planned again, beginning with the plan before. */
const again = (): Evening => (rest, before) => {
  const [{ night }] = rest.lanes;
  const nearer = { ...rest, lanes: rest.lanes.map((lane) => ({ ...lane, odds: lane.odds * LATER ** (lane.night - night) })) }; // prettier-ignore
  const options = { iterations: iterationsFor(nearer, seconds), seed: 1, ...(before ? { from: before } : {}) };
  return planSeason(nearer, options).plan;
};

const WAYS = { alone, priced, again } as const;
type Way = keyof typeof WAYS;

function lived(): Record<Way, LivedSeason[]> {
  const all: Record<Way, LivedSeason[]> = { alone: [], priced: [], again: [] };
  for (let draw = 0; draw < draws; draw++) {
    const clear = drawClearNights(new Array<number>(nights).fill(ODDS), PERSISTENCE, seededRandom(100 + draw));
    for (const way of Object.keys(WAYS) as Way[]) {
      const world = { clear, random: seededRandom(draw), acceptance: ACCEPTANCE, odds: ODDS, persistence: ASSUMED_PERSISTENCE }; // prettier-ignore
      all[way].push(liveSeason(problem, WAYS[way](), world));
    }
    const sum = (way: Way): string => all[way].at(-1)!.value.toFixed(1);
    console.log(`draw ${draw}: alone ${sum('alone')}, priced ${sum('priced')}, again ${sum('again')}`);
  }
  return all;
}

const mean = (numbers: readonly number[]): number => numbers.reduce((sum, x) => sum + x, 0) / numbers.length;

function table(all: Record<Way, LivedSeason[]>): void {
  for (const way of Object.keys(WAYS) as Way[]) {
    const of = (part: (one: LivedSeason) => number): number => mean(all[way].map(part));
    const gains = all[way].map(({ value }, d) => 100 * (value / all.alone[d].value - 1));
    const spread = Math.sqrt(mean(gains.map((gain) => (gain - mean(gains)) ** 2)) / Math.max(1, draws - 1));
    console.log(
      `${way}: value ${of(({ value }) => value).toFixed(1)} (light ${of(({ light }) => light).toFixed(1)}, balance ${of(({ balance }) => balance).toFixed(1)}, completion ${of(({ completion }) => completion).toFixed(1)}), finished ${of(({ finished }) => finished.filter((night) => night >= 0).length).toFixed(1)}; against alone ${mean(gains).toFixed(2)} ± ${spread.toFixed(2)} %`,
    );
  }
}

/** Ranges of a season planned and played on the first evening, against the seasons lived through. */
function dates(all: Record<Way, LivedSeason[]>): void {
  const toTake = {
    ...problem,
    goals: problem.goals.map((goal) => ({ ...goal, wanted: goal.wanted / ACCEPTANCE, done: goal.done / ACCEPTANCE, count: Math.ceil(goal.count / ACCEPTANCE) })), // prettier-ignore
    lanes: problem.lanes.map((lane) => ({ ...lane, odds: ODDS })),
  };
  const played = playTables(seasonTables(toTake));
  const random = seededRandom(7);
  const acceptance = new Float64Array(toTake.projects.length).fill(ACCEPTANCE);
  const odds = new Array<number>(nights).fill(ODDS);
  const ends = Array.from({ length: SEASONS_PLAYED }, () =>
    playSeason(played, { clear: drawClearNights(odds, ASSUMED_PERSISTENCE, random), random, acceptance }),
  );
  for (const way of Object.keys(WAYS) as Way[]) {
    const tally = { inside: 0, before: 0, after: 0, projects: 0, off: [] as number[] };
    toTake.projects.forEach((_, r) => {
      const own = ends.flatMap((each) => (each[r] >= 0 ? [each[r]] : []));
      const { early, late } = finishingRange(own, SEASONS_PLAYED);
      if (early === null || late === null) return;
      tally.projects += 1;
      const night = (end: number): number => (end < 0 ? nights : end);
      tally.off.push(
        mean(all[way].map(({ finished }) => night(finished[r]))) - mean(ends.map((each) => night(each[r]))),
      );
      for (const { finished } of all[way]) {
        if (night(finished[r]) < early) tally.before += 1;
        else if (night(finished[r]) > late) tally.after += 1;
        else tally.inside += 1;
      }
    });
    const share = (count: number): string => ((100 * count) / (tally.projects * draws)).toFixed(1);
    console.log(
      `dates of ${tally.projects} projects, ${way}: inside ${share(tally.inside)} %, before ${share(tally.before)} %, after ${share(tally.after)} %; mean date off by ${mean(tally.off).toFixed(2)} nights, ${mean(tally.off.map(Math.abs)).toFixed(2)} without sign`,
    );
  }
}

console.log(`${given.name}: ${draws} draws, ${seconds} s of moves an evening, odds ${ODDS}, persistence ${PERSISTENCE} (assumed ${ASSUMED_PERSISTENCE}), ${100 * ACCEPTANCE} % accepted`); // prettier-ignore
const all = lived();
table(all);
dates(all);
