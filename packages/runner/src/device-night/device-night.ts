// A night carried out by devices: connected and cooled in time, opened when it is safe, stay by stay through the plan, through
// trouble by rule, and closed at its end whatever has happened.
import type { RunStep } from '@meridiem/contract';
import type { NightEnd } from '@meridiem/core';
import { STEP_RULES } from '@meridiem/core';
import { DeviceError } from '@meridiem/devices';
import type { ExposureOutcome, NightContext, NightHooks } from './context.ts';
import { LATEST_SEC, lost } from './exposing.ts';
import { Interrupted, StepFailed } from './journal.ts';
import { SAFE_HOLDS_SEC } from './safety-watch.ts';
import {
  awaitCold,
  beginCooling,
  closeSite,
  connectDevices,
  goingOn,
  openSite,
  ownSteps,
  park,
  warmUp,
} from './site-acts.ts';
import { carryOutStay } from './stay.ts';

/** The camera begins to cool so long before the first exposure. */
const COOLING_LEAD_SEC = 1500;
/** What arriving at a stay takes before its first exposure. */
const ARRIVAL_LEAD_SEC = 240;
/** Longer waits are spent parked. */
const LONG_WAIT_SEC = 900;

interface Site {
  /** Whether anything was opened that must be closed. */
  isOpen: boolean;
}

/** @returns how it ended, by the site's true state */
export async function playDeviceNight(context: NightContext, hooks: NightHooks): Promise<NightEnd> {
  const site: Site = { isOpen: true };
  const ended = new Set<string>();
  const finish = (step: RunStep, outcome: ExposureOutcome): void => {
    ended.add(step.id);
    hooks.finish(step, outcome);
  };
  const night = { context, hooks: { ...hooks, finish }, site, ended };
  try {
    await prepare(night);
    for (const stay of staysOf(context.run.steps)) await throughStay(night, stay);
    return await endWith(night, 'finished');
  } catch (error) {
    if (!(error instanceof Interrupted)) await context.journal.note(`The night can’t go on: ${wordsOf(error)}`);
    const isStopped = error instanceof Interrupted && error.reason === 'stopped';
    return endWith(night, isStopped ? 'stopped' : 'closed early');
  }
}

interface Night {
  readonly context: NightContext;
  readonly hooks: NightHooks;
  readonly site: Site;
  /** Steps with an outcome. */
  readonly ended: ReadonlySet<string>;
}

/** Devices, cold camera; nothing is opened yet, and what an interrupted night left open is closed first where it must wait. */
async function prepare(night: Night): Promise<void> {
  const { context } = night;
  await connectDevices(context);
  const [first] = context.run.steps;
  night.site.isOpen = (await context.devices.roof.state()) !== 'closed';
  const waitSec = await secondsUntil(context, first.plannedStartUtcMs);
  if (night.site.isOpen && waitSec > LONG_WAIT_SEC) await close(night);
  await waitUntil(night, first.plannedStartUtcMs - 1000 * COOLING_LEAD_SEC);
  await beginCooling(context, first.sensorC);
  await waitUntil(night, first.plannedStartUtcMs - 1000 * ARRIVAL_LEAD_SEC);
  await awaitCold(context, first.sensorC);
}

/** A stay until each of its exposures has an outcome, however often the weather comes between. */
async function throughStay(night: Night, stay: readonly RunStep[]): Promise<void> {
  const { context, hooks, ended } = night;
  for (;;) {
    await leaveOutLate(night, stay);
    const rest = stay.filter(({ id }) => !ended.has(id));
    if (rest.length === 0) return;
    try {
      const waitSec = (await secondsUntil(context, rest[0].plannedStartUtcMs)) - ARRIVAL_LEAD_SEC;
      const isLong = waitSec > LONG_WAIT_SEC;
      if (isLong) await ownSteps(context, 'before_wait');
      if (isLong && night.site.isOpen) await park(context);
      await waitUntil(night, rest[0].plannedStartUtcMs - 1000 * ARRIVAL_LEAD_SEC);
      if (isLong) await ownSteps(context, 'after_wait');
      night.site.isOpen = true;
      await openSite(context);
      await carryOutStay(context, hooks, rest);
    } catch (error) {
      if (isOfTheStay(error)) {
        for (const step of stay) if (!ended.has(step.id)) hooks.finish(step, lost(error.message));
      } else if (error instanceof Interrupted && error.reason === 'unsafe') {
        await close(night);
        await waitForSafety(night);
      } else throw error;
    }
  }
}

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

/** The site closed in the middle of a night; what can't be closed ends it. */
async function close(night: Night): Promise<void> {
  if (!(await closeSite(night.context))) throw new Error('the roof is not closed');
  night.site.isOpen = false;
}

/** Until the sky has been safe for long enough, or nothing is left that could be exposed. */
async function waitForSafety({ context, hooks, ended }: Night): Promise<void> {
  const { journal, clock, safetyWatch, run } = context;
  await journal.step('wait', 'until the sky has been safe for 20 minutes', (until) =>
    until(async () => {
      if (hooks.interruption() === 'stopped') throw new Interrupted('stopped');
      const utcMs = await clock.nowUtcMs();
      const isLate = run.steps.every(
        (step) => ended.has(step.id) || utcMs > step.plannedStartUtcMs + 1000 * LATEST_SEC,
      );
      return isLate || (safetyWatch.isSafe && utcMs - safetyWatch.sinceUtcMs >= 1000 * SAFE_HOLDS_SEC);
    }),
  );
}

async function waitUntil({ context, hooks, site }: Night, utcMs: number): Promise<void> {
  const { journal, clock } = context;
  if ((await secondsUntil(context, utcMs)) <= 0) return;
  await journal.step('wait', `until ${new Date(utcMs).toISOString().slice(11, 16)} UTC`, (until) =>
    until(async () => {
      const why = hooks.interruption();
      if (why === 'stopped' || (why === 'unsafe' && site.isOpen)) throw new Interrupted(why);
      return (await clock.nowUtcMs()) >= utcMs;
    }),
  );
}

const secondsUntil = async ({ clock }: NightContext, utcMs: number): Promise<number> =>
  (utcMs - (await clock.nowUtcMs())) / 1000;

/** Closing always: after the plan, a stop, a failure. */
async function endWith({ context, hooks, ended }: Night, end: NightEnd): Promise<NightEnd> {
  const isClosed = await closeSite(context).catch(() => false);
  await warmUp(context).catch(goingOn);
  // What a person has stopped may be started again; otherwise nothing is left open.
  for (const step of end === 'stopped' ? [] : context.run.steps)
    if (!ended.has(step.id)) hooks.finish(step, lost('Not begun: the night had ended'));
  return isClosed ? end : 'not closed';
}

/** Exposures of one panel without another between. */
function staysOf(steps: readonly RunStep[]): RunStep[][] {
  const stays: RunStep[][] = [];
  for (const step of steps) {
    if (stays.at(-1)?.[0].panelId === step.panelId) stays.at(-1)!.push(step);
    else stays.push([step]);
  }
  return stays;
}

const wordsOf = (error: unknown): string => (error instanceof Error ? error.message : String(error));
