// One stay at a panel: arrived by the project's switches, then exposure after exposure with filter, dither, focus and flip as they fall due.
import type { RunStep } from '@meridiem/contract';
import { apparentSiderealDeg, apparentVector, frameOfDate, hourAngleDegOf } from '@meridiem/core';
import { centre, focus, guide, settle, slewTo } from './at-target.ts';
import type { NightContext, NightHooks } from './context.ts';
import { LATEST_SEC, lost, setFilter, takeExposure } from './exposing.ts';
import { Interrupted } from './journal.ts';
import { goingOn, keepCold, ownSteps } from './site-acts.ts';

const SIDEREAL_SEC_PER_DEG = 239.34;
/** Earlier than this against its plan an exposure waits for its start. */
const EARLY_SEC = 5;

/** @throws StepFailed where the stay can't be had, Interrupted where the sky is gone; exposures with an outcome keep it */
export async function carryOutStay(context: NightContext, hooks: NightHooks, steps: readonly RunStep[]): Promise<void> {
  const { devices, clock } = context;
  const [first] = steps;
  await arrive(context, first);
  let focusedUtcMs = await clock.nowUtcMs();
  let [sinceDither, hasMoved] = [0, true];
  for (const step of steps) {
    if (hooks.orders.isLast) throw new Interrupted('stopped');
    if (hooks.orders.isHeld) throw new Interrupted('held');
    const startUtcMs = await waitForStart(context, step);
    if (startUtcMs > step.plannedStartUtcMs + 1000 * LATEST_SEC) {
      hooks.finish(step, lost('Not begun: its time had passed'));
      continue;
    }
    if (await flipWhereDue(context, step)) hasMoved = true;
    await setFilter(context, step.filterLetter);
    const everyMin = context.deviceRun.costs.autofocusEveryMin;
    if (step.focus && everyMin > 0 && startUtcMs - focusedUtcMs > everyMin * 60_000) {
      await focus(context, step);
      focusedUtcMs = await clock.nowUtcMs();
    }
    if (step.guide && (await devices.guider.state()).state !== 'guiding') await guide(context, step.panelName);
    hooks.begin(step);
    const outcome = await takeExposure(context, step, hasMoved);
    hooks.finish(step, outcome);
    hasMoved = false;
    sinceDither += 1;
    if (step.guide && step.ditherEvery > 0 && sinceDither >= step.ditherEvery) {
      await dither(context, step);
      sinceDither = 0;
    }
  }
  await devices.guider.stop().catch(() => undefined);
  await ownSteps(context, 'leaving');
}

async function arrive(context: NightContext, step: RunStep): Promise<void> {
  await keepCold(context, step.sensorC);
  await slewTo(context, step, step.panelName);
  await setFilter(context, step.filterLetter);
  // The first focus of a stay comes before the first solution where stars may be discs.
  if (step.focus) await focus(context, step);
  if (step.centre) await centre(context, step);
  if (step.guide) await guide(context, step.panelName);
  await ownSteps(context, 'arriving');
}

async function dither({ journal, devices }: NightContext, { ditherPx }: RunStep): Promise<void> {
  await journal.step('dither', `${ditherPx} px`, () => devices.guider.dither(ditherPx)).catch(goingOn);
  await settle({ journal, devices });
}

/** @returns the time at which the exposure may begin */
async function waitForStart({ clock, journal }: NightContext, step: RunStep): Promise<number> {
  const early = step.plannedStartUtcMs - (await clock.nowUtcMs());
  if (early > 1000 * EARLY_SEC)
    await journal.step(
      'hold',
      step.panelName,
      (until) => until(async () => (await clock.nowUtcMs()) >= step.plannedStartUtcMs),
      early / 1000,
    );
  return clock.nowUtcMs();
}

/** Over the meridian where the target has crossed it, or would while exposing; then there again, centred and guided.
 * @returns whether it was done */
async function flipWhereDue(context: NightContext, step: RunStep): Promise<boolean> {
  const { devices, clock, deviceRun, journal } = context;
  if (!deviceRun.flips || (await devices.mount.state()).pierSide !== 'west') return false;
  const pastSec = async (): Promise<number> => {
    const utcMs = await clock.nowUtcMs();
    const frame = frameOfDate(utcMs);
    const hourAngleDeg = hourAngleDegOf(deviceRun.site, apparentVector(frame, step), apparentSiderealDeg(frame, utcMs));
    return hourAngleDeg * SIDEREAL_SEC_PER_DEG;
  };
  if ((await pastSec()) + step.exposureSec < deviceRun.flipAfterSec) return false;
  await journal.step(
    'flip',
    step.panelName,
    async (until) => {
      await devices.guider.stop().catch(() => undefined);
      await until(async () => (await pastSec()) > 0);
    },
    deviceRun.flipAfterSec + step.exposureSec,
  );
  await slewTo(context, step, `${step.panelName}, over the meridian`);
  if (step.centre) await centre(context, step);
  if (step.guide) await guide(context, step.panelName);
  return true;
}
