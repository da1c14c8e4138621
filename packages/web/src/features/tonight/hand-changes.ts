// What a hand does to a block, as the changes it stands for; and the hand changes of a night in words.
import { v4 as newId } from 'uuid';
import type { changeByHand, BodyOf, HandChange, PlanBlock, PlanRun, RigPlan, ShownWish } from '@meridiem/contract';
import type { KeptRun, NightWish } from '@meridiem/core';
import { clock } from '../../words/format.ts';

export type HandStep = BodyOf<typeof changeByHand>;
type IdentifiedChange = HandStep['changes'][number];

const named = (change: HandChange): IdentifiedChange => ({ id: newId(), ...change });

/** Pins that stand for runs of a block, or for what it has pushed aside: they are replaced when the block is set anew.
 * Another stay on the same panel keeps its own. */
const pinsOf = (plan: RigPlan, block: PlanBlock): string[] =>
  plan.wishes
    .filter(
      ({ kind, goalId, utcMs }) =>
        kind === 'pin' &&
        block.runs.some((run) => run.goalId === goalId) &&
        utcMs! > block.startUtcMs - PIN_SLACK_MS &&
        utcMs! < block.endUtcMs,
    )
    .map(({ id }) => id);
const PIN_SLACK_MS = 60_000;

/** Runs of a block one filter after the other, each once: what alternates is pinned in blocks. */
function gatheredRuns(block: PlanBlock): { goalId: string; startUtcMs: number; count: number }[] {
  const goals = [...new Set(block.runs.map(({ goalId }) => goalId))];
  if (goals.length === block.runs.length)
    return block.runs.map(({ goalId, startUtcMs, count }) => ({ goalId, startUtcMs, count }));
  let clockMs = block.runs[0].startUtcMs;
  return goals.map((goalId) => {
    const own = block.runs.filter((run) => run.goalId === goalId);
    const startUtcMs = clockMs;
    clockMs += own.reduce((sum, run) => sum + (run.endUtcMs - run.startUtcMs), 0);
    return { goalId, startUtcMs, count: own.reduce((sum, run) => sum + run.count, 0) };
  });
}

/** The block set where it stands, moved by some time. */
export const movedBlock = (plan: RigPlan, block: PlanBlock, byMs: number): HandStep => ({
  changes: gatheredRuns(block).map(({ goalId, startUtcMs, count }) =>
    named({ kind: 'pin', goalId, utcMs: startUtcMs + byMs, count }),
  ),
  replaces: pinsOf(plan, block),
});

const cycleMs = (run: PlanRun): number => (run.endUtcMs - run.startUtcMs) / run.count;

/** The block set where it stands, its last run longer or shorter by some time; null where nothing would change. */
export function stretchedBlock(plan: RigPlan, block: PlanBlock, byMs: number): HandStep | null {
  const step = movedBlock(plan, block, 0);
  const last = step.changes[step.changes.length - 1];
  const run = block.runs.find(({ goalId }) => last.kind === 'pin' && goalId === last.goalId)!;
  const exposures = Math.round(byMs / cycleMs(run));
  if (last.kind !== 'pin' || exposures === 0) return null;
  const count = Math.max(1, last.count + exposures);
  return { ...step, changes: [...step.changes.slice(0, -1), { ...last, count }] };
}

/** Two blocks that follow each other change places: the later one begins where the earlier did. */
export function swappedBlocks(plan: RigPlan, first: PlanBlock, second: PlanBlock): HandStep {
  const travelMs = second.runs[0].startUtcMs - second.startUtcMs;
  const earlier = movedBlock(plan, second, first.startUtcMs + travelMs - second.runs[0].startUtcMs);
  const endMs = first.startUtcMs + (second.endUtcMs - second.startUtcMs);
  const later = movedBlock(plan, first, endMs - first.startUtcMs);
  return { changes: [...earlier.changes, ...later.changes], replaces: [...earlier.replaces, ...later.replaces] };
}

export const leftOutBlock = (plan: RigPlan, block: PlanBlock): HandStep => ({
  changes: [named({ kind: 'ban', panelId: block.panelId })],
  replaces: pinsOf(plan, block),
});

export const heldBlock = (block: PlanBlock, kind: 'not_before' | 'not_after', utcMs: number): HandStep => ({
  changes: [named({ kind, panelId: block.panelId, utcMs })],
  replaces: [],
});

export const givenBack = (ids: readonly string[]): HandStep => ({ changes: [], replaces: [...ids] });

/** The hand changes of a night after one more step, as the planner takes them. */
export function wishesAfter(before: readonly NightWish[], { changes, replaces }: HandStep): NightWish[] {
  const stays = before.filter(
    (wish) =>
      !replaces.includes(wish.id) &&
      !changes.some((change) => change.kind !== 'pin' && wish.kind === change.kind && wish.panelId === change.panelId),
  );
  return [
    ...stays,
    ...changes.map((change): NightWish =>
      change.kind === 'pin'
        ? {
            id: change.id,
            kind: 'pin',
            goalId: change.goalId,
            startUtcMs: Math.round(change.utcMs),
            count: change.count,
          }
        : change.kind === 'ban'
          ? { id: change.id, kind: 'ban', panelId: change.panelId }
          : { id: change.id, kind: change.kind, panelId: change.panelId, utcMs: Math.round(change.utcMs) },
    ),
  ];
}

export const keptRunsOf = (blocks: readonly PlanBlock[]): KeptRun[] =>
  blocks.flatMap(({ runs }) => runs.map(({ goalId, startUtcMs, count }) => ({ goalId, startUtcMs, count })));

const BROKEN_WORDS = {
  OUTSIDE_LIMITS: 'lies outside its limits',
  TIME_TAKEN: 'runs into another run set by hand',
  NOTHING_LEFT: 'is more than the goal still wants',
} as const;

/** "L × 12 from 22:10, set by hand" */
export function wishWords(wish: ShownWish, zone: string): string {
  const at = clock(wish.utcMs, zone);
  switch (wish.kind) {
    case 'pin':
      return `${wish.panelName}: ${wish.filterLetter} × ${wish.count} set at ${at}`;
    case 'ban':
      return `${wish.panelName}: left out`;
    case 'not_before':
      return `${wish.panelName}: not before ${at}`;
    case 'not_after':
      return `${wish.panelName}: not after ${at}`;
  }
}

/** In the order of the night; what holds all night comes last. */
export const byTime = (wishes: readonly ShownWish[]): ShownWish[] =>
  [...wishes].sort((a, b) => (a.utcMs ?? Infinity) - (b.utcMs ?? Infinity) || a.panelName.localeCompare(b.panelName));

export const brokenWords = ({ broken }: ShownWish): string | null =>
  broken && `${broken.asked - broken.kept} of ${broken.asked} ${BROKEN_WORDS[broken.code]} and is not planned`;

/** "value 11.98, without hand changes 12.34: 0.36 less" */
export function valueWords(plan: Pick<RigPlan, 'value' | 'automaticValue'>): string | null {
  if (plan.automaticValue === null) return null;
  const change = plan.value - plan.automaticValue;
  const amount =
    Math.abs(change) < 0.005 ? 'the same' : `${Math.abs(change).toFixed(2)} ${change < 0 ? 'less' : 'more'}`;
  return `value ${plan.value.toFixed(2)}; without hand changes ${plan.automaticValue.toFixed(2)}: ${amount}`;
}
