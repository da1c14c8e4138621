// The seam to a rig: today a simulated observatory takes whole exposures; device clients will stand here later.
import type { ClaimedRun, RunStep, StepOutcome } from '@meridiem/contract';
import { seedFrom } from '@meridiem/core';

export interface RigDriver {
  /** Whether nothing real moves: only such a rig may be rehearsed on. */
  readonly isSimulated: boolean;
  /** Takes one exposure. A frame that the camera lost is an outcome, not an exception; an observatory that can't be reached is one. */
  expose(step: RunStep, afterMove: boolean): Promise<Pick<StepOutcome, 'outcome' | 'words' | 'exposure'>>;
}

/** Above this share of light lost the outcome's words speak of cloud. */
const CLOUDY_SHARE = 0.3;
const OVERCAST = 0.14;

/** A driver for the simulated observatory at an address. */
export function simulatedRig(baseUrl: string, run: Pick<ClaimedRun, 'nightDate' | 'rig'>): RigDriver {
  return {
    isSimulated: true,
    async expose(step, afterMove) {
      const order = {
        id: step.id,
        skySeed: seedFrom(run.nightDate),
        overcast: OVERCAST,
        startUtcMs: step.plannedStartUtcMs,
        imageScaleArcsec: run.rig.imageScaleArcsec,
        afterMove,
      };
      const { exposureSec, filterClass, gain, sensorC, rateShare, airmass, transparency, skyRatio } = step;
      const asked = { exposureSec, filterClass, gain, sensorC, rateShare, airmass, transparency, skyRatio };
      const answer = await fetch(`${baseUrl}/exposures`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ ...order, ...asked }),
        signal: AbortSignal.timeout(10_000),
      });
      if (!answer.ok) throw new Error(`The simulated observatory answered ${answer.status}`);
      const { exposure } = (await answer.json()) as {
        exposure: (NonNullable<StepOutcome['exposure']> & { cloudShare: number }) | null;
      };
      if (!exposure) return { outcome: 'lost', words: 'The camera delivered no frame', exposure: null };
      const { cloudShare, ...measured } = exposure;
      return {
        outcome: 'done',
        words: cloudShare > CLOUDY_SHARE ? 'Taken through cloud' : 'Taken',
        exposure: measured,
      };
    },
  };
}
