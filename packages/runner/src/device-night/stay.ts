// One stay at a panel: arrived by the project's switches, then exposure after exposure with filter, dither, focus and flip as they fall due.
import type { RunStep } from '@meridiem/contract';
import { apparentSiderealDeg, apparentVector, frameOfDate, hourAngleDegOf } from '@meridiem/core';
import { centre, focus, guide, settle, slewTo } from './at-target.ts';
import type { NightContext, NightHooks } from './context.ts';
import { LATE_SEC, LATEST_SEC, lost as notTaken, setFilter, takeExposure } from './exposing.ts';
import { Interrupted, StepFailed } from './journal.ts';
import { goingOn, keepCold, ownSteps } from './site-acts.ts';
import { stayState } from './stay-state.ts';

const SIDEREAL_SEC_PER_DEG = 239.34;
/** Earlier than this against its plan an exposure waits for its start. */
const EARLY_SEC = 5;

export interface Stay {
  readonly steps: readonly RunStep[];
  /** Whether the telescope is there already, centred and guided: only the plan has changed. */
  readonly isThere: boolean;
  /** Told when it is. */
  readonly arrived: () => void;
  /** Asks for what is best from now on, the night being behind its plan. @returns whether there is a new plan; else what is too
   * late is left out */
  readonly planAgain: () => Promise<boolean>;
}

/** @throws StepFailed where the stay can't be had, Interrupted where the sky is gone; exposures with an outcome keep it */
export async function carryOutStay(
  context: NightContext,
  hooks: NightHooks,
  { steps, isThere, arrived, planAgain }: Stay,
): Promise<void> {
  const { devices, clock, journal, siteWatch, rules } = context;
  const [first] = steps;
  if (!isThere) await arrive(context, first);
  arrived();
  const state = stayState(rules);
  const focusAgain = async (step: RunStep): Promise<void> => {
    await focus(context, step);
    state.focused({ utcMs: await clock.nowUtcMs(), airC: siteWatch.airC });
  };
  state.focused({ utcMs: await clock.nowUtcMs(), airC: siteWatch.airC });
  let [sinceDither, hasMoved] = [0, true];
  for (const step of steps) {
    if (hooks.orders.isLast) throw new Interrupted('stopped');
    if (hooks.orders.isHeld) throw new Interrupted('held');
    const startUtcMs = await waitForStart(context, step);
    const isLate = startUtcMs > step.plannedStartUtcMs + 1000 * LATE_SEC;
    if (isLate && (await planAgain())) throw new Interrupted('late');
    if (startUtcMs > step.plannedStartUtcMs + 1000 * LATEST_SEC) {
      hooks.finish(step, notTaken('Not begun: its time had passed'));
      continue;
    }
    if (await flipWhereDue(context, step)) hasMoved = true;
    const isUnfocused = await setFilter(context, step.filterLetter);
    const { autofocusEveryMin } = context.deviceRun.costs;
    const why = state.focusDue({ utcMs: startUtcMs, airC: siteWatch.airC }, autofocusEveryMin);
    if (why && step.focus) await journal.note(`Focused again: ${why}`);
    if (step.focus && (why || isUnfocused)) await focusAgain(step);
    if (step.guide && (await devices.guider.state()).state !== 'guiding') await guide(context, step.panelName);
    hooks.begin(step);
    const outcome = await takeExposure(context, step, hasMoved);
    hooks.finish(step, outcome);
    hasMoved = false;
    const lost = state.takeIn(step, outcome);
    if (lost) {
      siteWatch.pause(lost);
      throw new Interrupted('paused');
    }
    if (step.guide && state.badGuiding > 0) await guideAnew(context, step, state.badGuiding);
    sinceDither += 1;
    if (step.guide && step.ditherEvery > 0 && sinceDither >= step.ditherEvery) {
      await dither(context, step);
      sinceDither = 0;
    }
  }
  await devices.guider.stop().catch(() => undefined);
  await ownSteps(context, 'leaving');
}

/** Guiding from its beginning, with a new star; a target that can't be guided is left. */
async function guideAnew(context: NightContext, { panelName }: RunStep, times: number): Promise<void> {
  const { devices, rules } = context;
  if (times > rules.guidingTries)
    throw new StepFailed('guide', `guiding stayed above ${rules.guidingPauseArcsec}″ in ${times} exposures`);
  await devices.guider.stop();
  await guide(context, panelName);
}

async function arrive(context: NightContext, step: RunStep): Promise<void> {
  await context.devices.guider.stop().catch(() => undefined);
  await keepCold(context, step.sensorC);
  await slewTo(context, step, step.panelName);
  await setFilter(context, step.filterLetter);
  // The first focus of a stay comes before the first solution where stars may be discs.
  if (step.focus) await focus(context, step);
  if (step.centre) await centre(context, step);
  if (step.guide) await guide(context, step.panelName);
  await ownSteps(context, 'arriving');
}

async function dither(context: NightContext, { ditherPx }: RunStep): Promise<void> {
  const { journal, devices } = context;
  await journal.step('dither', `${ditherPx} px`, () => devices.guider.dither(ditherPx)).catch(goingOn);
  await settle(context);
}

/** @returns the time at which the exposure may begin */
async function waitForStart({ clock, journal }: NightContext, step: RunStep): Promise<number> {
  const early = step.plannedStartUtcMs - (await clock.nowUtcMs());
  if (early > 1000 * EARLY_SEC)
    await journal.step(
      'hold',
      step.panelName,
      (until) => until(async () => (await clock.nowUtcMs()) >= step.plannedStartUtcMs, { firstSec: early / 1000 }),
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
