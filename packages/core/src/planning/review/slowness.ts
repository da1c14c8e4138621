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
  readonly gaps: readonly GapTaken[];
}

/** What lay between two exposures of the night, tries in vain and planned waits left out. */
export interface GapTaken {
  readonly from: number;
  readonly to: number;
  /** When the first of them ended. */
  readonly fromSec: number;
  readonly spentSec: number;
}

/** As far from its own time a gap still says how long the same takes. */
const ALIKE_WITHIN_SEC = 900;

/** How long it took that night to go on from one goal to another at about a time; null where it did not. */
export const gapTaken = (
  gaps: readonly GapTaken[],
  { from, to, fromSec }: Pick<GapTaken, 'from' | 'to' | 'fromSec'>,
): number | null => {
  const awaySec = (gap: GapTaken): number => Math.abs(gap.fromSec - fromSec);
  const alike = gaps.filter((gap) => gap.from === from && gap.to === to && awaySec(gap) <= ALIKE_WITHIN_SEC);
  return alike.toSorted((a, b) => awaySec(a) - awaySec(b))[0]?.spentSec ?? null;
};

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
    return [{ from: before.goal, to: goal, fromSec, spentSec, askedSec }];
  });
  const factor = (of: typeof gaps, otherwise: number): number => {
    const sum = (key: 'spentSec' | 'askedSec'): number => of.reduce((total, gap) => total + gap[key], 0);
    if (of.length < FEWEST_GAPS || sum('askedSec') <= 0) return otherwise;
    return Math.min(MOST_FACTOR, Math.max(LEAST_FACTOR, sum('spentSec') / sum('askedSec')));
  };
  const all = factor(gaps, 1);
  const [within, between] = [true, false].map((isWithin) => factor(gaps.filter(({ from, to }) => (from === to) === isWithin), all)); // prettier-ignore
  return { within, between, all, gaps };
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
