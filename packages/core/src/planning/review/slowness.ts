// How much longer a night's steps took than the rig's own times say.
import type { UtcMs } from '../../units.ts';
import type { NightProblem } from '../problem.ts';
import { changeSecBetween } from '../problem.ts';
import type { LostTime, NightRecord } from './lost-time.ts';
import type { LostSec, Shot } from './played-night.ts';
import { spanInSec } from './played-night.ts';

export interface Lived {
  readonly time: LostTime;
  readonly record: NightRecord;
  readonly originUtcMs: UtcMs;
}

/** Fewer say nothing. */
const FEWEST_GAPS = 3;
const [LEAST_FACTOR, MOST_FACTOR] = [0.3, 4];

/** How many times as long steps took as the rig's times say. */
export interface Slowness {
  /** Between exposures of one goal, and on the way to another. */
  readonly within: number;
  readonly between: number;
  readonly all: number;
}

/** What lay between exposures, tries in vain and planned waits left out, against what the rig's times ask for there. */
export function slownessOf(
  problem: NightProblem,
  taken: readonly Shot[],
  { time, record, originUtcMs }: Lived,
): Slowness {
  const lost = time.spans.map((span) => spanInSec(span, originUtcMs));
  const waits = record.actions.flatMap(({ kind, startUtcMs, endUtcMs }) =>
    (kind === 'wait' || kind === 'hold') && endUtcMs !== null ? [spanInSec({ startUtcMs, endUtcMs }, originUtcMs)] : [],
  );
  const idle = joined([...lost, ...waits]);
  const gaps = taken.slice(1).flatMap(({ goal, startSec }, i) => {
    const before = taken[i];
    const { exposureSec, cycleSec } = problem.goals[before.goal];
    const fromSec = before.startSec + exposureSec;
    // What breaks an exposure off has taken more than its own time.
    if (lost.some((span) => !span.isPassing && span.fromSec < startSec && span.toSec > fromSec)) return [];
    const spentSec = startSec - fromSec - sharedSec(idle, fromSec, startSec);
    const askedSec = cycleSec - exposureSec + changeSecBetween(problem, before.goal, goal);
    return [{ spentSec, askedSec, isWithin: before.goal === goal }];
  });
  const factor = (of: typeof gaps, otherwise: number): number => {
    const sum = (key: 'spentSec' | 'askedSec'): number => of.reduce((total, gap) => total + gap[key], 0);
    if (of.length < FEWEST_GAPS || sum('askedSec') <= 0) return otherwise;
    return Math.min(MOST_FACTOR, Math.max(LEAST_FACTOR, sum('spentSec') / sum('askedSec')));
  };
  const all = factor(gaps, 1);
  const [within, between] = [true, false].map((isWithin) => factor(gaps.filter((gap) => gap.isWithin === isWithin), all)); // prettier-ignore
  return { within, between, all };
}

function joined(spans: readonly LostSec[]): LostSec[] {
  const kept: { fromSec: number; toSec: number }[] = [];
  for (const span of [...spans].sort((a, b) => a.fromSec - b.fromSec)) {
    const last = kept.at(-1);
    if (last && span.fromSec <= last.toSec) last.toSec = Math.max(last.toSec, span.toSec);
    else kept.push({ ...span });
  }
  return kept;
}

const sharedSec = (spans: readonly LostSec[], fromSec: number, toSec: number): number =>
  spans.reduce((sum, span) => sum + Math.max(0, Math.min(span.toSec, toSec) - Math.max(span.fromSec, fromSec)), 0);
