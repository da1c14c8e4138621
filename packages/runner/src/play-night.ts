// The night's state machine: intent, exposure, outcome, step by step, until the plan ends, a person stops it or the lease is lost.
import type { ClaimedRun, RunStep } from '@meridiem/contract';
import { beginStep, endRun, finishStep } from '@meridiem/contract';
import type { RigDriver } from './rig-driver.ts';
import type { ServerLink } from './server-link.ts';
import { RefusedCall } from './server-link.ts';

export interface NightParts {
  readonly link: Pick<ServerLink, 'call'>;
  readonly driver: RigDriver;
  readonly sleep: (ms: number) => Promise<void>;
}

export type NightEnd = 'finished' | 'stopped' | 'lease lost' | 'refused';

/** Longest silence while waiting, so that a stop is heard and the lease is kept. */
const LONGEST_WAIT_MS = 5000;

/** Plays the open steps of a claimed run. Every report may be repeated: the server takes each step once. */
export async function playNight(run: ClaimedRun, parts: NightParts): Promise<NightEnd> {
  // An interlock of its own: whatever the server says, limits are never lifted on a real rig.
  const isRefused = run.rehearsal && !parts.driver.isSimulated;
  try {
    for (const [i, step] of run.steps.entries()) {
      if (isRefused || !(await playStep(run, step, run.steps[i - 1], parts))) break;
    }
    const { state } = await parts.link.call(endRun, run.id, { fence: run.fence });
    if (isRefused) return 'refused';
    return state === 'stopped' ? 'stopped' : 'finished';
  } catch (error) {
    if (error instanceof RefusedCall && error.code === 'LEASE_LOST') return 'lease lost';
    throw error;
  }
}

/** @returns whether the night goes on */
async function playStep(
  run: ClaimedRun,
  step: RunStep,
  previous: RunStep | undefined,
  { link, driver, sleep }: NightParts,
): Promise<boolean> {
  const begin = () => link.call(beginStep, run.id, { fence: run.fence, stepId: step.id });
  if (!(await begin()).goOn) return false;
  for (let leftMs = (step.exposureSec * 1000) / run.speed; leftMs > 0; leftMs -= LONGEST_WAIT_MS) {
    await sleep(Math.min(leftMs, LONGEST_WAIT_MS));
    if (leftMs > LONGEST_WAIT_MS && !(await begin()).goOn) return false;
  }
  const outcome = await driver.expose(step, previous?.panelId !== step.panelId);
  return (await link.call(finishStep, run.id, { fence: run.fence, stepId: step.id, ...outcome })).goOn;
}
