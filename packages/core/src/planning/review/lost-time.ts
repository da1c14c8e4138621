// What a night's reported steps say of time that could not be used: from when to when, and why.
import type { NightEnd, StepKind } from '../../night/steps.ts';
import { STEP_RULES } from '../../night/steps.ts';
import type { InterruptionReason, WaitReason } from '../../night/interruptions.ts';
import { interruptionOf, LEFT_BY_HAND, STARS_WERE_LOST, waitOf } from '../../night/interruptions.ts';
import type { Interval } from '../../time/nights.ts';
import type { UtcMs } from '../../units.ts';

/** A step by devices as it was reported. */
export interface NightAction {
  readonly kind: StepKind;
  readonly words: string;
  readonly startUtcMs: UtcMs;
  readonly endUtcMs: UtcMs | null;
  readonly outcome: 'done' | 'failed' | 'interrupted' | 'unknown' | null;
  readonly remark: string | null;
}

export interface ExposureAt {
  readonly goalId: string;
  readonly startUtcMs: UtcMs;
}

/** A night of one rig as it went. */
export interface NightRecord {
  /** In the order of their beginnings. */
  readonly actions: readonly NightAction[];
  /** Exposures that came of it, in order. */
  readonly taken: readonly (ExposureAt & { readonly isRejected?: boolean })[];
  /** Its rest planned again, each time from when on; in order. */
  readonly madeAgain: readonly { readonly fromUtcMs: UtcMs; readonly exposures: readonly ExposureAt[] }[];
  /** Planned exposures that were given up, with what was said of each. */
  readonly givenUp: readonly { readonly panelId: string; readonly words: string | null }[];
  readonly endedAs: NightEnd;
  /** Between two runs of it, where the one before had ended early. */
  readonly breaks?: readonly (Interval & { readonly cause: LossCause })[];
}

export type LossCause = 'weather' | 'fault' | 'hand';

export interface LostSpan extends Interval {
  readonly cause: LossCause;
  /** A try in vain: the telescope stays where it is, and the plan goes on. */
  readonly isPassing: boolean;
}

/** A panel that was not tried again from a moment on. */
export interface LeftPanel {
  readonly panelId: string;
  readonly fromUtcMs: UtcMs;
  readonly cause: LossCause;
}

export interface LostTime {
  /** In order, apart. */
  readonly spans: readonly LostSpan[];
  readonly left: readonly LeftPanel[];
}

const CAUSE_OF_INTERRUPTION: Readonly<Record<InterruptionReason, LossCause | null>> = {
  unsafe: 'weather',
  paused: 'weather',
  stopped: 'hand',
  left: 'hand',
  held: 'hand',
  unheard: 'fault',
  late: null,
};
const CAUSE_OF_WAIT: Readonly<Record<WaitReason, LossCause>> = {
  safety: 'weather',
  conditions: 'weather',
  held: 'hand',
};

/** Steps between trouble and the next target: the way back belongs to what made it necessary. */
const WAY_BACK: readonly StepKind[] = ['stow', 'close roof', 'open roof', 'unstow', 'home', 'connect', 'cool', 'call'];

/** @param endUtcMs when nothing could be exposed any more anyway */
export function lostTime(record: NightRecord, endUtcMs: UtcMs): LostTime {
  const between = (record.breaks ?? []).map((span) => ({ ...span, isPassing: false }));
  const spans = closedEarly(
    record,
    endUtcMs,
    apart([...interruptions(record.actions), ...failures(record.actions), ...between]),
  );
  return { spans, left: leftPanels(record) };
}

/** From what broke a step off, or the wait after it, until the site is ready again. */
function interruptions(actions: readonly NightAction[]): LostSpan[] {
  const spans: LostSpan[] = [];
  let open: { cause: LossCause; startUtcMs: UtcMs; endUtcMs: UtcMs } | null = null;
  for (const action of actions) {
    const endUtcMs = action.endUtcMs ?? action.startUtcMs;
    const broken = action.outcome === 'interrupted' ? interruptionOf(action.remark) : null;
    const wait = action.kind === 'wait' ? waitOf(action.words) : null;
    const cause = broken ? CAUSE_OF_INTERRUPTION[broken] : wait ? CAUSE_OF_WAIT[wait] : null;
    if (open && (WAY_BACK.includes(action.kind) || (wait && cause === open.cause))) {
      open.endUtcMs = Math.max(open.endUtcMs, endUtcMs);
      continue;
    }
    if (open) spans.push({ ...open, isPassing: false });
    open = cause === null ? null : { cause, startUtcMs: wait ? action.startUtcMs : endUtcMs, endUtcMs };
  }
  return open ? [...spans, { ...open, isPassing: false }] : spans;
}

/** Tries in vain; a step that nobody heard the end of lasted until the next one began. */
const failures = (actions: readonly NightAction[]): LostSpan[] =>
  actions.flatMap(({ outcome, startUtcMs, endUtcMs }, i): LostSpan[] => {
    if (outcome === 'failed')
      return [{ cause: 'fault', startUtcMs, endUtcMs: endUtcMs ?? startUtcMs, isPassing: true }];
    if (outcome !== 'unknown') return [];
    return [{ cause: 'fault', startUtcMs, endUtcMs: actions[i + 1]?.startUtcMs ?? startUtcMs, isPassing: false }];
  });

/** Spans in order; what two claim is the first one's. */
function apart(spans: readonly LostSpan[]): LostSpan[] {
  const kept: LostSpan[] = [];
  for (const span of [...spans].sort((a, b) => a.startUtcMs - b.startUtcMs)) {
    const startUtcMs = Math.max(span.startUtcMs, kept.at(-1)?.endUtcMs ?? -Infinity);
    if (span.endUtcMs > startUtcMs) kept.push({ ...span, startUtcMs });
  }
  return kept;
}

/** A night that was ended before its time lost the rest of it. */
function closedEarly({ actions, endedAs }: NightRecord, endUtcMs: UtcMs, spans: LostSpan[]): LostSpan[] {
  if (endedAs === 'finished') return spans;
  const last = actions.findLast(({ kind }) => !['stow', 'close roof', 'warm up', 'note', 'call'].includes(kind));
  const fromUtcMs = Math.max(last?.endUtcMs ?? last?.startUtcMs ?? -Infinity, spans.at(-1)?.endUtcMs ?? -Infinity);
  if (!last || fromUtcMs >= endUtcMs) return spans;
  const wait = last.kind === 'wait' ? waitOf(last.words) : null;
  const isWeather = wait !== null && CAUSE_OF_WAIT[wait] === 'weather';
  const cause: LossCause = endedAs === 'stopped' ? 'hand' : isWeather ? 'weather' : 'fault';
  return apart([...spans, { cause, startUtcMs: fromUtcMs, endUtcMs, isPassing: false }]);
}

/** Panels whose stays were given up, from the step in which that was decided. */
function leftPanels({ actions, givenUp }: NightRecord): LeftPanel[] {
  const left = new Map<string, LeftPanel>();
  for (const { panelId, words } of givenUp) {
    if (left.has(panelId) || words === null) continue;
    const decided = decidedIn(actions, words);
    if (decided) left.set(panelId, { panelId, ...decided });
  }
  return [...left.values()];
}

function decidedIn(actions: readonly NightAction[], words: string): Omit<LeftPanel, 'panelId'> | null {
  const cause: LossCause = words === LEFT_BY_HAND ? 'hand' : words.startsWith(STARS_WERE_LOST) ? 'weather' : 'fault';
  const action = actions.findLast((one) => {
    if (cause === 'hand') return one.outcome === 'interrupted' && interruptionOf(one.remark) === 'left';
    if (cause === 'weather') return one.kind === 'wait' && waitOf(one.words) === 'conditions';
    return one.outcome === 'failed' && one.remark === words && STEP_RULES[one.kind].onFailure === 'next stay';
  });
  return action ? { fromUtcMs: action.endUtcMs ?? action.startUtcMs, cause } : null;
}
