// What a night waits for, and how: its next start, a safe sky, better air, a person's hold.
import type { RunStep } from '@meridiem/contract';
import { STARS_WERE_LOST, WAIT_WORDS } from '@meridiem/core';
import type { NightContext, NightHooks } from './context.ts';
import { endsTheNight } from './context.ts';
import { lost } from './exposing.ts';
import { Interrupted } from './journal.ts';
import { awaitDevices, closeSite, onceTheyAnswer, park } from './site-acts.ts';
import { answerTestShot } from './test-shots.ts';
import { STARS_LOST } from './stay-state.ts';

/** While nothing is moved the hands' orders are looked at so often, observatory seconds. */
const LOOK_SEC = 30;
/** Somebody waits for a picture. */
const HELD_LOOK_SEC = 5;
const LONGEST_LOOK_SEC = 120;

export interface Night {
  readonly context: NightContext;
  readonly hooks: NightHooks;
  readonly site: {
    /** Whether anything was opened that must be closed. */
    isOpen: boolean;
  };
  /** Exposures of the plan at hand, in their order. */
  steps: readonly RunStep[];
  /** Steps with an outcome. */
  readonly ended: ReadonlySet<string>;
  /** Panels that could not be had tonight, or were left by hand. */
  readonly leftPanelIds: Set<string>;
  /** How often a panel was waited for because its stars were lost. */
  readonly pausesForStars: Map<string, number>;
  /** Whether the night is planned again where it falls behind: until somebody who was asked could not. */
  isPlannedAgain: boolean;
  /** Where the telescope is, centred and guided; null while it is nowhere. */
  atPanelId: string | null;
}

export async function waitUntil({ context, hooks, site }: Night, utcMs: number): Promise<void> {
  const { journal, clock } = context;
  const waitSec = await secondsUntil(context, utcMs);
  if (waitSec <= 0) return;
  await journal.step('wait', `until ${new Date(utcMs).toISOString().slice(0, 16)}Z`, (until) =>
    until(
      async () => {
        const why = hooks.interruption();
        if (endsTheNight(why) || (why === 'unsafe' && site.isOpen)) throw new Interrupted(why);
        return (await clock.nowUtcMs()) >= utcMs;
      },
      { firstSec: Math.min(waitSec, LONGEST_LOOK_SEC), everySec: LOOK_SEC },
    ),
  );
}

export const secondsUntil = async ({ clock }: NightContext, utcMs: number): Promise<number> =>
  (utcMs - (await clock.nowUtcMs())) / 1000;

/** The site closed in the middle of a night; what can't be closed ends it. */
export async function close(night: Night): Promise<void> {
  const { context } = night;
  // Devices that were silent for a while are tried again when they answer.
  if (!(await closeSite(context)) && !((await awaitDevices(context)) && (await closeSite(context))))
    throw new Error('the roof is not closed');
  night.site.isOpen = false;
}

/** The panel's exposures are lost, and it is not tried again tonight. */
export async function leaveStay(
  { context, hooks, ended, leftPanelIds }: Night,
  stay: readonly RunStep[],
  why: string,
): Promise<void> {
  await context.devices.guider.stop().catch(() => undefined);
  await context.devices.camera.abort().catch(() => undefined);
  for (const step of stay) if (!ended.has(step.id)) hooks.finish(step, lost(why));
  leftPanelIds.add(stay[0].panelId);
}

/** Until the sky has been safe for long enough, or no time is left in which anything could be exposed. */
export async function waitForSafety({ context, hooks }: Night): Promise<void> {
  const { journal, clock, safetyWatch, deviceRun, rules } = context;
  await journal.step('wait', `${WAIT_WORDS.safety} for ${rules.safeHoldMin} minutes`, (until) =>
    until(
      async () => {
        const why = hooks.interruption();
        if (endsTheNight(why)) throw new Interrupted(why);
        const utcMs = await clock.nowUtcMs();
        const isLate = utcMs > deviceRun.endUtcMs;
        return isLate || (safetyWatch.isSafe && utcMs - safetyWatch.sinceUtcMs >= 60_000 * rules.safeHoldMin);
      },
      { everySec: LOOK_SEC },
    ),
  );
  if ((await clock.nowUtcMs()) > deviceRun.endUtcMs) throw new Error('the sky was not safe again before dawn');
}

/** Parked with the roof open until the air has been good for long enough; a sky that turns unsafe closes, and a panel whose
 * stars are lost again and again is left. */
export async function waitForConditions(night: Night, stay: readonly RunStep[]): Promise<void> {
  const { context, hooks, pausesForStars } = night;
  const { journal, clock, safetyWatch, siteWatch, deviceRun, rules } = context;
  const why = siteWatch.pausedFor ?? 'the conditions';
  await onceTheyAnswer(context, park);
  await journal.step('wait', `${WAIT_WORDS.conditions}: ${why}`, (until) =>
    until(
      async () => {
        const why = hooks.interruption();
        if (endsTheNight(why)) throw new Interrupted(why);
        return !safetyWatch.isSafe || siteWatch.pausedFor === null || (await clock.nowUtcMs()) > deviceRun.endUtcMs;
      },
      { everySec: LOOK_SEC },
    ),
  );
  if ((await clock.nowUtcMs()) > deviceRun.endUtcMs) throw new Error(`no better conditions before dawn: ${why}`);
  if (!safetyWatch.isSafe) {
    await close(night);
    return waitForSafety(night);
  }
  if (!why.endsWith(STARS_LOST)) return;
  const times = (pausesForStars.get(stay[0].panelId) ?? 0) + 1;
  pausesForStars.set(stay[0].panelId, times);
  if (times >= rules.starLossTries)
    await leaveStay(night, stay, `${STARS_WERE_LOST} ${times === 1 ? 'once' : `${times} times`}`);
}

/** Nothing new is begun until a person lets it go on, but what they point at and photograph by hand; a sky that turns unsafe
 * ends the wait, and so does its longest time. */
export async function waitWhileHeld(night: Night): Promise<void> {
  const { context, hooks } = night;
  const { journal, clock, devices, rules, safetyWatch } = context;
  await devices.guider.stop().catch(() => undefined);
  await devices.mount.setTracking(false).catch(() => undefined);
  const endUtcMs = (await clock.nowUtcMs()) + 60_000 * rules.longestHoldMin;
  const isOver = async (): Promise<boolean> =>
    !hooks.orders.isHeld || !safetyWatch.isSafe || (await clock.nowUtcMs()) >= endUtcMs;
  while (!(await isOver())) {
    if (hooks.orders.testShot) {
      night.site.isOpen = true;
      await answerTestShot(context, hooks.orders);
    }
    await journal.step('wait', WAIT_WORDS.held, (until) =>
      until(
        async () => {
          const why = hooks.interruption();
          if (endsTheNight(why)) throw new Interrupted(why);
          return hooks.orders.testShot !== null || (await isOver());
        },
        { everySec: HELD_LOOK_SEC },
      ),
    );
  }
  if (hooks.orders.isHeld && safetyWatch.isSafe) {
    hooks.orders.endHold();
    await journal.note(`Held for ${rules.longestHoldMin} minutes; the night goes on by itself`);
  }
}
