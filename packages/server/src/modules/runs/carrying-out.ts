// A night carried out by one runner: every step's intent before its command, its outcome exactly once.
import type { beginStep, BodyOf, ClaimedRun, StepOutcome } from '@meridiem/contract';
import { imageScaleArcsec } from '@meridiem/core';
import type { Queries } from '../../database/connection.ts';
import { notFound, ServiceError } from '../../errors.ts';
import { placeOf } from '../../moving-target.ts';
import { announce } from '../../plugins/live.ts';
import { judgeGoals, plannedSkiesOf, skiesOf } from '../ledger/index.ts';
import type { OpenStep, RunRow, TakenExposure } from './repository.ts';
import {
  askToStopRun,
  attributeExposure,
  claimRun,
  endOldRehearsals,
  endRun,
  endStep,
  insertExposure,
  insertMeasurement,
  intendStep,
  LEASE_SEC,
  openSteps,
  opticsOf,
  renewLease,
} from './repository.ts';
import type { RunServiceParts } from './service.ts';

/** For a step whose target stands below the horizon at its start: the runner will not expose it. */
const UNKNOWN_SKY = { airmass: 1, transparency: 1, skyRatio: 1 };

export function createCarryingOut({ database, clock }: RunServiceParts) {
  return {
    async claim(holder: string): Promise<ClaimedRun | null> {
      await endOldRehearsals(database, clock.nowUtcMs());
      const claimed = await claimRun(database, holder);
      if (!claimed) return null;
      await announce(database, claimed.observatoryId, 'run', [claimed.rigId]);
      const optics = await opticsOf(database, claimed.rigId);
      const { id, fence, speed, nightDate, rigId, rigName } = claimed;
      const steps = await pointedSteps(database, id);
      const skies = await plannedSkiesOf(database, id);
      return {
        id,
        fence,
        speed,
        leaseSec: LEASE_SEC,
        nightDate,
        rehearsal: claimed.kind === 'rehearsal',
        rig: { id: rigId, name: rigName, imageScaleArcsec: imageScaleArcsec({ ...optics!, binning: 1 }) },
        steps: steps.map((step) => ({ ...step, ...(skies.get(step.id) ?? UNKNOWN_SKY) })),
      };
    },

    async begin(runId: string, { fence, stepId }: BodyOf<typeof beginStep>): Promise<{ goOn: boolean }> {
      return database.transaction(async (queries) => {
        const run = await heldRun(queries, runId, fence);
        if (run.expiresUtcMs !== null && clock.nowUtcMs() >= run.expiresUtcMs) {
          await askToStopRun(queries, runId);
          return { goOn: false };
        }
        if (run.state !== 'running') return { goOn: false };
        await intendStep(queries, runId, stepId);
        await announce(queries, run.observatoryId, 'run', [run.rigId]);
        return { goOn: true };
      });
    },

    async finish(runId: string, outcome: StepOutcome): Promise<{ goOn: boolean }> {
      return database.transaction(async (queries) => {
        const run = await heldRun(queries, runId, outcome.fence);
        const fresh = await endStep(queries, runId, outcome);
        // What a rehearsal takes counts for nothing and stays out of the ledger.
        const counts = run.kind === 'night';
        if (fresh && outcome.exposure && counts) await storeExposure(queries, run, outcome.stepId, outcome.exposure);
        await announce(queries, run.observatoryId, 'run', [run.rigId]);
        if (fresh && outcome.exposure && counts)
          for (const topic of ['ledger', 'projects'] as const) await announce(queries, run.observatoryId, topic);
        return { goOn: run.state === 'running' };
      });
    },

    async end(runId: string, fence: number): Promise<{ state: string }> {
      return database.transaction(async (queries) => {
        const run = await heldRun(queries, runId, fence);
        const state = run.state === 'stopping' ? 'stopped' : 'finished';
        await endRun(queries, runId, state);
        for (const topic of ['run', 'plan', 'projects'] as const)
          await announce(queries, run.observatoryId, topic, [run.rigId]);
        return { state };
      });
    },
  };
}

/** The run, if the caller still holds its lease; renews it. */
async function heldRun(queries: Queries, runId: string, fence: number): Promise<RunRow> {
  const run = await renewLease(queries, runId);
  if (!run) throw notFound('run');
  if (run.fence !== fence || !['running', 'stopping'].includes(run.state))
    throw new ServiceError('LEASE_LOST', 'Another runner has taken this night over, or it has ended');
  return run;
}

/** Steps with the place of their targets: what moves is pointed at in the middle of its exposure. */
async function pointedSteps(queries: Queries, runId: string): Promise<OpenStep[]> {
  const rows = await openSteps(queries, runId);
  return rows.map(({ orbit, site, ...step }) => {
    const place = placeOf({ ...step, orbit }, site, step.plannedStartUtcMs + 500 * step.exposureSec);
    return { ...step, ...(place ?? {}) };
  });
}

/** The exposure with its measurements and its one attribution, judged against its own kind. */
async function storeExposure(queries: Queries, run: RunRow, stepId: string, exposure: TakenExposure): Promise<void> {
  const stored = await insertExposure(queries, run, stepId, exposure);
  if (!stored) return;
  await attributeExposure(queries, run.observatoryId, stored, exposure);
  const sky = (await skiesOf(queries, [stored.id])).get(stored.id);
  await insertMeasurement(queries, stored, exposure, sky);
  await judgeGoals(queries, run.observatoryId, [stored.goalId]);
}
