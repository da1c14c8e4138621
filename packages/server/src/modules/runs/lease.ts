// How long a night by devices is its runner's alone: two must never mind one rig.
import type { DeviceRun, RunStep } from '@meridiem/contract';
import { CLOSING_LONGEST_SEC } from '@meridiem/core';

/** A runner elsewhere that has not been heard for so long closes; what is left of its lease is for closing. */
const UNHEARD_SEC = 540;
/** Closing is tried again and again, by the rig's own numbers. */
const LONGEST_CLOSING_SEC = 4 * 3600;
/** A simulated night begins so long before its first exposure, by its own clock. */
const BEFORE_FIRST_SEC = 1800;
const LONGEST_NIGHT_SEC = 48 * 3600;

export const DEVICE_LEASE_SEC = UNHEARD_SEC + CLOSING_LONGEST_SEC;

/** Seconds to the end of closing at the latest: by the clock of a real night; of a simulated one as long as it lasts at its
 * slowest. */
export function heldSec(
  { endUtcMs, isSimulated }: Pick<DeviceRun, 'endUtcMs' | 'isSimulated'>,
  steps: readonly Pick<RunStep, 'plannedStartUtcMs'>[],
  nowUtcMs: number,
): number {
  const first = steps[0]?.plannedStartUtcMs ?? endUtcMs;
  const leftSec = isSimulated ? (endUtcMs - first) / 1000 + BEFORE_FIRST_SEC : (endUtcMs - nowUtcMs) / 1000;
  return Math.min(LONGEST_NIGHT_SEC, Math.max(0, leftSec)) + LONGEST_CLOSING_SEC;
}
