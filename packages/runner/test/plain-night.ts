// A night at the second observatory: by a clock that nobody holds, or by one that waits for its minder.
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { ClaimedRun, DeviceRun, RunAction, RunStep, StandingOrders } from '@meridiem/contract';
import { apparentSiderealDeg, frameOfDate, nightRulesWith, wrap180, wrap360 } from '@meridiem/core';
import type { ExposureOutcome } from '../src/device-night/context.ts';
import { runDeviceNight } from '../src/device-night/run-device-night.ts';
import { heldClock } from './held-clock.ts';
import { deviceRun, step } from './night-harness.ts';
import type { PlainFault } from './plain-observatory.ts';
import { plainObservatory } from './plain-observatory.ts';

const FREE_SPEED = 60;
const HELD_SPEED = 30_000;
export const MIDNIGHT = Date.parse('2026-12-08T00:00Z');
/** In midsummer's night of the south, the site where this moment is midnight. */
const site = { latitudeDeg: -30, longitudeDeg: wrap180(-15 * ((MIDNIGHT % 86_400_000) / 3_600_000)), elevationM: 900 };
/** Near the zenith then. */
const overhead = {
  raDeg: wrap360(apparentSiderealDeg(frameOfDate(MIDNIGHT), MIDNIGHT) + site.longitudeDeg - 8),
  decDeg: -38,
};

export const planned = (seq: number, more: Partial<RunStep> = {}): RunStep =>
  step(seq, { ...overhead, plannedStartUtcMs: MIDNIGHT + 1000 * (300 + 30 * seq), exposureSec: 20, focus: seq === 1, positionAngleDeg: 40, ...more }); // prettier-ignore

export interface Told {
  readonly devices?: Partial<DeviceRun>;
  readonly onBegin?: (seq: number) => void;
  readonly onAction?: (action: RunAction) => void;
  readonly orders?: StandingOrders;
}

/** @param isHeld whether simulated time waits for its minder */
export async function openPlainSite({ isHeld = false } = {}) {
  const beganMs = performance.now();
  const held = isHeld ? heldClock(MIDNIGHT) : null;
  const now = held?.nowUtcMs ?? (() => MIDNIGHT + (performance.now() - beganMs) * FREE_SPEED);
  const sleep = (ms: number): Promise<void> =>
    new Promise((resolve) => setTimeout(resolve, ms / (held ? 1 : FREE_SPEED)));
  const plain = await plainObservatory(now, site, held?.answers);
  const folder = await mkdtemp(join(tmpdir(), 'plain-'));

  const runOf = (steps: readonly RunStep[], devices: Partial<DeviceRun>): ClaimedRun => {
    const nightRules = nightRulesWith({ coolingLeadMin: 2, safeHoldMin: 2, closingTries: 1, closingPauseMin: 0.5 });
    return {
      id: 'run', fence: 1, speed: held ? HELD_SPEED : 1, leaseSec: null, nightDate: '2026-12-07', rehearsal: false,
      rig: { id: 'plain', name: 'Plain', imageScaleArcsec: 3.5 },
      deviceRun: deviceRun(plain.baseUrl, {
        isSimulated: isHeld, site, nightRules, endUtcMs: MIDNIGHT + 3_600_000, rotatorKind: 'none', flips: false,
        park: { altitudeDeg: 0, azimuthDeg: 90 }, ...devices,
      }),
      steps: [...steps],
    } as unknown as ClaimedRun; // prettier-ignore
  };

  async function play(steps: readonly RunStep[], { devices = {}, onBegin, onAction, orders }: Told = {}) {
    const actions: RunAction[] = [];
    const outcomes = new Map<number, ExposureOutcome>();
    const end = await runDeviceNight(runOf(steps, devices), {
      framesFolder: folder,
      sleep,
      nowUtcMs: now,
      report: (action) => {
        actions.push(action);
        onAction?.(action);
      },
      isStopped: () => false,
      ...(orders ? { standing: () => orders } : {}),
      begin: ({ seq }) => onBegin?.(seq),
      finish: ({ seq }, outcome) => void outcomes.set(seq, outcome),
    });
    const done = actions.filter(({ outcome }) => outcome === 'done').map(({ kind }) => kind);
    return { end, actions, outcomes, done };
  }

  let isBroken = false;
  return {
    plain,
    folder,
    play,
    /** Once a night. */
    breaks(fault: PlainFault, forSec: number): void {
      if (!isBroken) plain.breakDown(fault, forSec);
      isBroken = true;
    },
    async close(): Promise<void> {
      held?.end();
      await plain.close();
      await rm(folder, { recursive: true });
    },
  };
}
export type PlainSite = Awaited<ReturnType<typeof openPlainSite>>;
