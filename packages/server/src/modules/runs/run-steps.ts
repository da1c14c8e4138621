// The exposures of a run that are still to be taken, each with where it points and the sky it was planned under.
import type { RunStep } from '@meridiem/contract';
import type { Queries } from '../../database/connection.ts';
import { placeOf } from '../../moving-target.ts';
import { plannedSkiesOf } from '../ledger/index.ts';
import type { OpenStep } from './repository.ts';
import { openSteps } from './repository.ts';

/** For a step whose target stands below the horizon at its start: the runner will not expose it. */
const UNKNOWN_SKY = { airmass: 1, transparency: 1, skyRatio: 1 };

export async function claimedSteps(queries: Queries, runId: string): Promise<RunStep[]> {
  const steps = await pointedSteps(queries, runId);
  const skies = await plannedSkiesOf(queries, runId);
  return steps.map((step) => ({ ...step, ...(skies.get(step.id) ?? UNKNOWN_SKY) }));
}

/** Steps with the place of their targets: what moves is pointed at in the middle of its exposure. */
async function pointedSteps(queries: Queries, runId: string): Promise<OpenStep[]> {
  const rows = await openSteps(queries, runId);
  return rows.map(({ orbit, site, ...step }) => {
    const place = placeOf({ ...step, orbit }, site, step.plannedStartUtcMs + 500 * step.exposureSec);
    return { ...step, ...(place ?? {}) };
  });
}
