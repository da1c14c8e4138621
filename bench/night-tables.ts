// 500 targets × 30 nights, a sample each 2 minutes of darkness, against the bare typed-array loop of the same length in the same run.
import {
  darkIntervals,
  nightDatePlus,
  nightTable,
  observingNight,
  seededRandom,
  targetAltitudes,
} from '@meridiem/core';

const SITE = { latitudeDeg: -31.2, longitudeDeg: -70.1, elevationM: 1900 };
const TARGETS = 500;
const NIGHTS = 30;
const STEP_SEC = 120;
/** Both are run in turn this often and the quickest of each is taken: other work on the machine only ever adds time. */
const ROUNDS = 5;

export function benchNightTables(): string[] {
  const random = seededRandom(5);
  const targets = Array.from({ length: TARGETS }, () => ({ raDeg: random() * 360, decDeg: -85 + random() * 110 }));
  const rounds = Array.from({ length: ROUNDS }, () => {
    const samples = sample(targets, NIGHTS);
    return { samples, bareMs: bare(samples.steps, TARGETS) };
  });
  const tookMs = Math.min(...rounds.map(({ samples }) => samples.tookMs));
  const bareMs = Math.min(...rounds.map((round) => round.bareMs));
  const [{ samples }] = rounds;
  return [
    `| ${TARGETS} targets × ${NIGHTS} nights, ${(samples.count / 1e6).toFixed(1)} M samples | ${tookMs.toFixed(0)} ms | bare loop ${bareMs.toFixed(0)} ms | ${(tookMs / bareMs).toFixed(2)} × (limit 3 ×) |`,
  ];
}

function sample(targets: readonly { raDeg: number; decDeg: number }[], nights: number) {
  const started = performance.now();
  let count = 0;
  let steps = 0;
  for (let night = 0; night < nights; night++) {
    const [dark] = darkIntervals(SITE, observingNight(nightDatePlus('2029-03-01', night), 'America/Santiago'));
    const table = nightTable(SITE, dark, STEP_SEC);
    const into = new Float64Array(table.length);
    for (const target of targets) count += targetAltitudes(table, target, into).length;
    steps += table.length;
  }
  return { tookMs: performance.now() - started, count, steps };
}

/** What no program can avoid: one multiply-add chain and one arc sine a sample. */
function bare(steps: number, targets: number): number {
  const cosSidereal = Float64Array.from({ length: steps }, (_, i) => Math.cos(i / 1000));
  const sinSidereal = Float64Array.from({ length: steps }, (_, i) => Math.sin(i / 1000));
  const into = new Float64Array(steps);
  const started = performance.now();
  for (let target = 0; target < targets; target++) {
    const [a, b, c] = [0.3 + target / 2000, 0.2, 0.1];
    for (let i = 0; i < steps; i++) into[i] = Math.asin(a * cosSidereal[i] + b * sinSidereal[i] + c) * (180 / Math.PI);
  }
  return performance.now() - started;
}
