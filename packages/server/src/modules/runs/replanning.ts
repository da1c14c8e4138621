// What is left of a night under way, planned again: after bad weather, a target that can't be had, a hold.
import type { BodyOf, replanRun, RunStep } from '@meridiem/contract';
import type { NightPlan } from '@meridiem/core';
import { announce } from '../../plugins/live.ts';
import { heldRun } from './held-run.ts';
import { insertPlannedSteps, replaceOpenSteps } from './repository.ts';
import { claimedSteps } from './run-steps.ts';
import type { RunServiceParts } from './service.ts';

/** Plans the rest of a rig's night; given by the planning module, which stands on this one. */
export type PlanRest = (
  night: { readonly observatoryId: string; readonly rigId: string; readonly nightDate: string },
  rest: { readonly fromUtcMs: number; readonly withoutPanelIds: readonly string[] },
) => Promise<NightPlan>;

export const createReplanning = ({ database, planRest }: Pick<RunServiceParts, 'database' | 'planRest'>) => ({
  async replan(
    runId: string,
    { fence, fromUtcMs, withoutPanelIds }: BodyOf<typeof replanRun>,
  ): Promise<{ steps: RunStep[] }> {
    const asked = await heldRun(database, runId, fence);
    const plan = await planRest(asked, { fromUtcMs, withoutPanelIds });
    return database.transaction(async (queries) => {
      const run = await heldRun(queries, runId, fence);
      await replaceOpenSteps(queries, runId);
      await insertPlannedSteps(queries, run, plan);
      await announce(queries, run.observatoryId, 'run', [run.rigId]);
      return { steps: await claimedSteps(queries, runId) };
    });
  },
});
