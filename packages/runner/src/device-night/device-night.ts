// A night carried out by devices: connected and cooled in time, opened when it is safe, stay by stay through the plan, through
// trouble by rule, and closed at its end whatever has happened.
import type { RunStep } from '@meridiem/contract';
import type { NightEnd } from '@meridiem/core';
import { LEFT_BY_HAND, PLANNED_AGAIN, STEP_RULES } from '@meridiem/core';
import { DeviceError } from '@meridiem/devices';
import type { ExposureOutcome, NightContext, NightHooks } from './context.ts';
import { endsTheNight } from './context.ts';
import { LATE_SEC, LATEST_SEC, lost } from './exposing.ts';
import { Interrupted, StepFailed } from './journal.ts';
import { takeCalibration } from './calibration-frames.ts';
import { flatLightOff } from './flat-light.ts';
import { takeSkyFlats } from './sky-flats.ts';
import type { Night } from './night-waits.ts';
import {
  close,
  leaveStay,
  secondsUntil,
  waitForConditions,
  waitForSafety,
  waitUntil,
  waitWhileHeld,
} from './night-waits.ts';
import {
  awaitCold,
  awaitDevices,
  beginCooling,
  closeAtLast,
  connectDevices,
  goingOn,
  onceTheyAnswer,
  openSite,
  ownSteps,
  park,
  warmUp,
} from './site-acts.ts';
import { carryOutStay } from './stay.ts';

/** What arriving at a stay takes before its first exposure. */
const ARRIVAL_LEAD_SEC = 240;
/** A plan made again begins so long after it is asked for. */
const PLANNING_LEAD_SEC = 60;
/** Longer waits are spent parked. */
const LONG_WAIT_SEC = 900;

/** @returns how it ended, by the site's true state */
export async function playDeviceNight(context: NightContext, hooks: NightHooks): Promise<NightEnd> {
  const ended = new Set<string>();
  const finish = (step: RunStep, outcome: ExposureOutcome): void => {
    ended.add(step.id);
    hooks.finish(step, outcome);
  };
  const night: Night = {
    ...{ context, hooks: { ...hooks, finish }, ended },
    site: { isOpen: true },
    steps: context.run.steps,
    leftPanelIds: new Set(),
    pausesForStars: new Map(),
    isPlannedAgain: true,
    atPanelId: null,
  };
  try {
    await prepare(night);
    for (let stay = nextStay(night); stay.length > 0; stay = nextStay(night)) await throughStay(night, stay);
    return await endWith(night, 'finished');
  } catch (error) {
    const isAsked = error instanceof Interrupted && error.reason !== 'unheard';
    if (!isAsked) await context.journal.note(`The night can’t go on: ${wordsOf(error)}`);
    const isStopped = error instanceof Interrupted && error.reason === 'stopped';
    return endWith(night, isStopped ? 'stopped' : 'closed early');
  }
}

/** Exposures of one panel without another between, from the first that has no outcome. */
function nextStay({ steps, ended }: Night): RunStep[] {
  const open = steps.filter(({ id }) => !ended.has(id));
  const other = open.findIndex(({ panelId }) => panelId !== open[0].panelId);
  return other < 0 ? open : open.slice(0, other);
}

/** Devices, cold camera; nothing is opened yet, and what an interrupted night left open is closed first where it must wait. */
async function prepare(night: Night): Promise<void> {
  const { context } = night;
  await onceTheyAnswer(context, connectDevices);
  await flatLightOff(context);
  night.site.isOpen = (await context.devices.roof.state()) !== 'closed';
  await takeSkyFlats(night, 'dusk');
  const [first] = night.steps;
  if (!first) return;
  const waitSec = await secondsUntil(context, first.plannedStartUtcMs);
  if (night.site.isOpen && waitSec > LONG_WAIT_SEC) await close(night);
  await waitUntil(night, first.plannedStartUtcMs - 60_000 * context.rules.coolingLeadMin);
  await onceTheyAnswer(context, (site) => beginCooling(site, first.sensorC));
  await waitUntil(night, first.plannedStartUtcMs - 1000 * ARRIVAL_LEAD_SEC);
  await awaitCold(context, first.sensorC);
}

/** A stay once; what comes between is answered by rule, and the rest of the night planned again. */
async function throughStay(night: Night, stay: readonly RunStep[]): Promise<void> {
  const { context, hooks, ended } = night;
  // Where a night is taken over, or everything took longer than planned, the plan is far behind.
  if ((await secondsUntil(context, stay[0].plannedStartUtcMs)) < -LATE_SEC && (await planWhereLate(night))) return;
  await leaveOutLate(night, stay);
  const rest = stay.filter(({ id }) => !ended.has(id));
  if (rest.length === 0) return;
  try {
    const waitSec = (await secondsUntil(context, rest[0].plannedStartUtcMs)) - ARRIVAL_LEAD_SEC;
    const isLong = waitSec > LONG_WAIT_SEC;
    if (isLong) await ownSteps(context, 'before_wait');
    if (isLong && night.site.isOpen) await onceTheyAnswer(context, park);
    if (isLong) night.atPanelId = null;
    await waitUntil(night, rest[0].plannedStartUtcMs - 1000 * ARRIVAL_LEAD_SEC);
    if (isLong) await ownSteps(context, 'after_wait');
    if (hooks.orders.isHeld) throw new Interrupted('held');
    night.site.isOpen = true;
    await onceTheyAnswer(context, openSite);
    const [{ panelId }] = rest;
    await carryOutStay(context, hooks, {
      steps: rest,
      isThere: night.atPanelId === panelId,
      arrived: () => (night.atPanelId = panelId),
      planAgain: () => planWhereLate(night),
    });
    night.atPanelId = null;
  } catch (error) {
    if (error instanceof Interrupted && error.reason === 'late') return;
    night.atPanelId = null;
    await afterTrouble(night, rest, error);
    await planAgain(night);
  }
}

/** @throws what ends the night */
async function afterTrouble(night: Night, stay: readonly RunStep[], error: unknown): Promise<void> {
  if (isOfTheStay(error)) {
    await leaveStay(night, stay, error.message);
    // A device that has failed costs its stay; devices that are all silent are no matter of one stay.
    if (!(await awaitDevices(night.context))) throw new Error('the devices do not answer');
    return;
  }
  if (!(error instanceof Interrupted) || endsTheNight(error.reason)) throw error;
  if (error.reason === 'held') await waitWhileHeld(night);
  if (error.reason === 'held' && night.context.safetyWatch.isSafe) return;
  if (error.reason === 'left') {
    night.hooks.orders.leave();
    return leaveStay(night, stay, LEFT_BY_HAND);
  }
  if (error.reason === 'paused') return waitForConditions(night, stay);
  await close(night);
  await waitForSafety(night);
}

/** What is left of the night by the best plan from now on; the plan at hand where nobody can be asked. */
async function planAgain(night: Night): Promise<boolean> {
  const { context, hooks, leftPanelIds } = night;
  const fromUtcMs = (await context.clock.nowUtcMs()) + 1000 * PLANNING_LEAD_SEC;
  night.isPlannedAgain = false;
  if (fromUtcMs > context.deviceRun.endUtcMs) return false;
  const steps = await hooks.planAgain(fromUtcMs, [...leftPanelIds]);
  if (!steps) return false;
  // A plan that is behind already is carried out as it is: asked again it would be the same.
  night.isPlannedAgain = !steps.some(({ plannedStartUtcMs }) => plannedStartUtcMs < fromUtcMs - 1000 * LATE_SEC);
  night.steps = steps;
  await context.journal.note(`${PLANNED_AGAIN}: ${steps.length} exposures`);
  return true;
}

/** Asked once more only where the last plan could be had. */
const planWhereLate = async (night: Night): Promise<boolean> => night.isPlannedAgain && planAgain(night);

/** A roof that does not open or a mount that does not park is no matter of one stay; a device that fails to answer is. */
const isOfTheStay = (error: unknown): error is Error =>
  error instanceof DeviceError ||
  (error instanceof StepFailed && !['close', 'call'].includes(STEP_RULES[error.kind].onFailure));

async function leaveOutLate({ context, hooks, ended }: Night, stay: readonly RunStep[]): Promise<void> {
  const utcMs = await context.clock.nowUtcMs();
  for (const step of stay)
    if (!ended.has(step.id) && utcMs > step.plannedStartUtcMs + 1000 * LATEST_SEC)
      hooks.finish(step, lost('Not begun: its time had passed'));
}

/** Closing always: after the plan, a stop, a failure. */
async function endWith(night: Night, end: NightEnd): Promise<NightEnd> {
  const { context, hooks, ended, steps } = night;
  // Whatever comes of them, what follows closes.
  if (end === 'finished') await takeSkyFlats(night, 'dawn').catch((error: unknown) => context.journal.note(`No flats of the sky: ${wordsOf(error)}`)); // prettier-ignore
  const isClosed = await closeAtLast(context);
  if (isClosed && end !== 'stopped') await takeCalibration(context, hooks);
  await warmUp(context).catch(goingOn);
  // What a person has stopped may be started again; otherwise nothing is left open.
  for (const step of end === 'stopped' ? [] : steps)
    if (!ended.has(step.id)) hooks.finish(step, lost('Not begun: the night had ended'));
  return isClosed ? end : 'not closed';
}

const wordsOf = (error: unknown): string => (error instanceof Error ? error.message : String(error));
