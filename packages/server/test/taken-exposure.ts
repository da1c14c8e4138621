// An exposure as a simulated camera gives it: one in 250 is lost there, which is another test's business.
import type { ClaimedRun } from '@meridiem/contract';
import { simulatedExposure } from '@meridiem/simulator';

export function takenExposure(step: ClaimedRun['steps'][number]) {
  const { plannedStartUtcMs: startUtcMs } = step;
  for (let attempt = 0; ; attempt++) {
    const id = `${step.id} ${attempt}`;
    const taken = simulatedExposure({ ...step, id, skySeed: 1, overcast: 0, startUtcMs, imageScaleArcsec: 1, afterMove: false }); // prettier-ignore
    if (!taken) continue;
    const { cloudShare: _cloud, ...exposure } = taken;
    return exposure;
  }
}
