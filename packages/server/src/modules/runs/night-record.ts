// A rig's night as it went, over all its runs: every step by devices, what came of the plan, and each plan made again in it.
import type { NightAction, NightEnd, NightRecord } from '@meridiem/core';
import { PLANNED_AGAIN } from '@meridiem/core';
import type { Queries } from '../../database/connection.ts';
import type { NightRun } from '../../database/models/night-run.ts';
import type { RunStep } from '../../database/models/run-step.ts';

/** @param runs of one rig and night, in the order in which they were asked for */
export async function nightRecordOf(queries: Queries, runs: readonly NightRun[]): Promise<NightRecord> {
  const parts = oneAfterAnother(await Promise.all(runs.map((run) => runRecordOf(queries, run))));
  return {
    actions: parts.flatMap(({ actions }) => actions),
    taken: parts.flatMap(({ taken }) => taken).sort((a, b) => a.startUtcMs - b.startUtcMs),
    givenUp: parts.flatMap(({ givenUp }) => givenUp),
    // What a run after the first began with is a plan made again.
    madeAgain: parts.flatMap(({ first, madeAgain }, i) => (i === 0 ? madeAgain : [first, ...madeAgain])),
    endedAs: runs.at(-1)!.endedAs as NightEnd,
    breaks: parts.slice(1).flatMap(({ actions }, i) => {
      const [startUtcMs, endUtcMs] = [endOf(parts[i]), actions[0]?.startUtcMs];
      const cause = runs[i].endedAs === 'stopped' ? ('hand' as const) : ('fault' as const);
      return endUtcMs === undefined || endUtcMs <= startUtcMs ? [] : [{ cause, startUtcMs, endUtcMs }];
    }),
  };
}

const endOf = ({ actions }: Pick<RunRecord, 'actions'>): number =>
  Math.max(0, ...actions.map(({ startUtcMs, endUtcMs }) => endUtcMs ?? startUtcMs));

/** A simulated observatory's clock is set back where its night is started again: nothing happened before the run before had ended. */
function oneAfterAnother(parts: readonly RunRecord[]): RunRecord[] {
  const ordered: RunRecord[] = [];
  let fromUtcMs = 0;
  for (const part of parts) {
    const later = (utcMs: number): number => Math.max(utcMs, fromUtcMs);
    ordered.push({
      ...part,
      actions: part.actions.map((action) => ({
        ...action,
        startUtcMs: later(action.startUtcMs),
        endUtcMs: action.endUtcMs === null ? null : later(action.endUtcMs),
      })),
      first: { ...part.first, fromUtcMs: later(part.first.fromUtcMs) },
    });
    fromUtcMs = endOf(ordered[ordered.length - 1]);
  }
  return ordered;
}

interface RunRecord extends Omit<NightRecord, 'endedAs'> {
  readonly first: NightRecord['madeAgain'][number];
}

async function runRecordOf(queries: Queries, run: NightRun): Promise<RunRecord> {
  const [actions, steps] = await Promise.all([
    actionsOfRun(queries, run.id),
    queries.models.RunStep.findAll({ where: { runId: run.id }, order: [['seq', 'ASC']] }),
  ]);
  const [panelOf, taken] = await Promise.all([panelsOf(queries, steps), takenOf(queries, steps)]);
  const plans = plansOf(steps, actions);
  return {
    actions,
    taken,
    givenUp: steps
      .filter(({ outcome }) => outcome === 'lost')
      .map(({ goalId, words }) => ({ panelId: panelOf.get(goalId)!, words })),
    first: plans[0],
    madeAgain: plans.slice(1),
  };
}

async function actionsOfRun({ models }: Queries, runId: string): Promise<NightAction[]> {
  const order = [
    ['started', 'ASC'],
    ['seq', 'ASC'],
  ] as [string, string][];
  const rows = await models.RunAction.findAll({ where: { runId }, order });
  return rows.map(({ kind, words, started, ended, outcome, remark }) => ({
    kind: kind as NightAction['kind'],
    words,
    startUtcMs: started.getTime(),
    endUtcMs: ended?.getTime() ?? null,
    outcome,
    remark,
  }));
}

async function panelsOf({ models }: Queries, steps: readonly RunStep[]): Promise<Map<string, string>> {
  const goals = await models.Goal.findAll({ where: { id: [...new Set(steps.map(({ goalId }) => goalId))] } });
  return new Map(goals.map(({ id, panelId }) => [id, panelId]));
}

async function takenOf({ models }: Queries, steps: readonly RunStep[]): Promise<NightRecord['taken']> {
  const goalOf = new Map(steps.map(({ id, goalId }) => [id, goalId]));
  const exposures = await models.Exposure.findAll({ where: { runStepId: [...goalOf.keys()] } });
  const rejected = await models.LedgerRow.findAll({
    where: { exposureId: exposures.map(({ id }) => id), verdict: 'rejected' },
  });
  const isRejected = new Set(rejected.map(({ exposureId }) => exposureId));
  return exposures.map(({ id, runStepId, startUtc }) => ({
    goalId: goalOf.get(runStepId!)!,
    startUtcMs: startUtc.getTime(),
    isRejected: isRejected.has(id),
  }));
}

/** The plan that a run began with, and those made again in it: each was told with how many exposures it holds. */
function plansOf(steps: readonly RunStep[], actions: readonly NightAction[]): NightRecord['madeAgain'][number][] {
  const told = actions
    .filter(({ words }) => words.startsWith(PLANNED_AGAIN))
    .map(({ words, startUtcMs }) => ({
      fromUtcMs: startUtcMs,
      count: Number(/(\d+) exposures?$/.exec(words)?.[1] ?? 0),
    }));
  const again = told.reduce((sum, { count }) => sum + count, 0);
  const counts = [{ fromUtcMs: actions[0]?.startUtcMs ?? 0, count: steps.length - again }, ...told];
  let next = 0;
  return counts.map(({ fromUtcMs, count }) => {
    const own = steps.slice(next, next + count);
    next += count;
    return {
      fromUtcMs,
      exposures: own.map(({ goalId, plannedStart }) => ({ goalId, startUtcMs: plannedStart.getTime() })),
    };
  });
}
