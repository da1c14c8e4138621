// Every step of a night: its intent before the command, its outcome after; tried again by rule, never waiting for a person.
import { randomUUID } from 'node:crypto';
import type { FocusCurve, RunAction } from '@meridiem/contract';
import type { InterruptionReason, StepKind } from '@meridiem/core';
import { INTERRUPTION_WORDS, STEP_RULES } from '@meridiem/core';
import { DeviceError } from '@meridiem/devices';
import type { Interruption } from './context.ts';
import type { NightClock } from './night-clock.ts';

/** The sky is unsafe, the plan has become too old, or a person has said so: what is under way ends. */
export class Interrupted extends Error {
  readonly reason: InterruptionReason;
  constructor(reason: InterruptionReason) {
    super(INTERRUPTION_WORDS[reason]);
    this.reason = reason;
  }
}

/** A step has failed for the last time. */
export class StepFailed extends Error {
  readonly kind: StepKind;
  constructor(kind: StepKind, words: string) {
    super(words);
    this.kind = kind;
  }
}

export interface Watching {
  /** Why what needs the sky must end; null while it may go on. */
  interruption(): Interruption | null;
}

export type Report = (action: RunAction) => void;

export interface Journal {
  /** Does a step by its rule.
   * @param words what it is about: "NGC 300, panel 2"
   * @param extraSec added to the rule's time-out: an exposure's own length
   * @throws StepFailed after its last try, Interrupted where it needs the sky and the sky is gone */
  step<T>(kind: StepKind, words: string, work: (until: Until, keep: Keep) => Promise<T>, extraSec?: number): Promise<T>;
  /** Something worth knowing that is no step. */
  note(words: string): Promise<void>;
  /** Nothing can be done from here: a person is called. */
  call(words: string): Promise<void>;
}

/** Puts by what a step has measured, whatever becomes of it. */
export type Keep = (curve: FocusCurve) => void;

/** Looks again until the condition holds; fails by the step's time-out. @param pace where looking often is of no use */
export type Until = (condition: () => Promise<boolean>, pace?: Pace) => Promise<void>;

/** Observatory seconds between two looks; what interrupts a night wakes it before. */
export interface Pace {
  /** Before the second look. */
  readonly firstSec?: number;
  readonly everySec?: number;
}

export function createJournal(clock: NightClock, watching: Watching, report: Report): Journal {
  let seq = 0;
  const once = async <T>(
    kind: StepKind,
    work: (until: Until, keep: Keep) => Promise<T>,
    extraSec: number,
    keep: Keep,
  ): Promise<T> => {
    const { timeoutSec, needsSky } = STEP_RULES[kind];
    const deadlineUtcMs = (await clock.nowUtcMs()) + 1000 * (timeoutSec + extraSec);
    const check = (): void => {
      const why = watching.interruption();
      if (why && needsSky) throw new Interrupted(why);
    };
    const until: Until = async (condition, { firstSec, everySec } = {}) => {
      for (let pauseSec = firstSec ?? everySec; !(await condition()); pauseSec = everySec) {
        check();
        if ((await clock.nowUtcMs()) > deadlineUtcMs) throw new Error(`not done within ${timeoutSec + extraSec} s`);
        await clock.poll(pauseSec);
      }
    };
    check();
    return work(until, keep);
  };
  const said = async (kind: 'note' | 'call', words: string): Promise<void> => {
    const utcMs = await clock.nowUtcMs();
    const moment = { startUtcMs: utcMs, endUtcMs: utcMs, outcome: 'done' as const, remark: null };
    report({ id: randomUUID(), seq: ++seq, kind, words, attempt: 1, ...moment });
  };
  return {
    async step(kind, words, work, extraSec = 0) {
      const rule = STEP_RULES[kind];
      for (let attempt = 1; ; attempt++) {
        const action = { id: randomUUID(), seq: ++seq, kind, words, attempt, startUtcMs: await clock.nowUtcMs() };
        report({ ...action, endUtcMs: null, outcome: null, remark: null });
        let kept: { curve?: FocusCurve } = {};
        const keep: Keep = (curve) => (kept = { curve });
        const end = async (outcome: NonNullable<RunAction['outcome']>, remark: string | null): Promise<void> =>
          report({ ...action, ...kept, endUtcMs: await clock.nowUtcMs(), outcome, remark });
        try {
          const result = await once(kind, work, extraSec, keep);
          await end('done', typeof result === 'string' ? result : null);
          return result;
        } catch (error) {
          const remark = error instanceof Error ? error.message : String(error);
          if (error instanceof Interrupted) {
            await end('interrupted', remark);
            throw error;
          }
          await end('failed', remark);
          // What a device does not have, or what is wrong with the order, is the same at the next try.
          const isHopeless =
            error instanceof DeviceError && (error.failure === 'not implemented' || error.failure === 'invalid value');
          if (attempt >= rule.tries || isHopeless) throw new StepFailed(kind, remark);
        }
      }
    },
    note: (words) => said('note', words),
    call: (words) => said('call', words),
  };
}
