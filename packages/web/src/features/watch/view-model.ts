// A night by devices as it is watched: what now and since when, what came of what was done, and what is wrong.
import type { HandOrder, NightRun, RunAction, ShownOrder, SiteReading } from '@meridiem/contract';
import type { NightEnd, StepKind } from '@meridiem/core';
import { NIGHT_ENDS, STEP_RULES } from '@meridiem/core';
import { clock, clockSeconds } from '../../words/format.ts';

/** "Centring: Veil, panel 2"; moments in the words by the clock of the zone. */
export function actionWords({ kind, words }: Pick<RunAction, 'kind' | 'words'>, zone: string): string {
  if (kind === 'note' || kind === 'call') return words;
  const local = words.replace(/\d{4}-\d\d-\d\dT\d\d:\d\dZ/g, (moment) => clock(Date.parse(moment), zone));
  return local === '' ? STEP_RULES[kind].doing : `${STEP_RULES[kind].doing}: ${local}`;
}

/** "3 min 20 s", "8 s" */
export function tookWords({ startUtcMs, endUtcMs }: Pick<RunAction, 'startUtcMs' | 'endUtcMs'>): string {
  if (endUtcMs === null) return '';
  const sec = Math.round((endUtcMs - startUtcMs) / 1000);
  return sec < 60 ? `${sec} s` : `${Math.floor(sec / 60)} min ${String(sec % 60).padStart(2, '0')} s`;
}

/** What came of a step: a figure, why it failed, or that it goes on. */
export function outcomeWords({ outcome, remark, attempt }: RunAction): string {
  const tried = attempt > 1 ? `, try ${attempt}` : '';
  if (outcome === null) return `under way${tried}`;
  if (outcome === 'unknown') return 'not known: the runner was lost';
  if (outcome === 'done') return remark ? `${remark}${tried}` : `done${tried}`;
  return `${outcome}${tried}${remark ? `: ${remark}` : ''}`;
}

const ACTIVE = ['requested', 'running', 'stopping'];

/** The one sentence at the top. */
export function nowWords(run: NightRun, actions: readonly RunAction[], endedAs: NightEnd | null, zone: string): string {
  if (endedAs) return NIGHT_ENDS[endedAs];
  if (run.state === 'requested') return 'Waiting for the runner.';
  const current = actions.find(({ outcome }) => outcome === null) ?? actions[0];
  if (!ACTIVE.includes(run.state) || !current) return 'No step has been reported.';
  return `${actionWords(current, zone)}, since ${clockSeconds(current.startUtcMs, zone)}.`;
}

/** What a person must be called for: the last word on it, while the night has not ended well. */
export function alarmWords(actions: readonly RunAction[], endedAs: NightEnd | null): string | null {
  const call = actions.find(({ kind }) => kind === 'call');
  return endedAs === 'not closed' ? NIGHT_ENDS['not closed'] : endedAs === null ? (call?.words ?? null) : null;
}

export interface LastFact {
  readonly name: string;
  readonly words: string;
  readonly utcMs: number;
}

const FACTS: readonly (readonly [kind: StepKind, name: string])[] = [
  ['focus', 'Focus'],
  ['centre', 'Pointing'],
];

/** The newest figure of each kind, each with its time: an old one is never taken for a new one. */
export const lastFacts = (actions: readonly RunAction[]): LastFact[] =>
  FACTS.flatMap(([kind, name]) => {
    const last = actions.find((action) => action.kind === kind && action.outcome === 'done');
    return last ? [{ name, words: last.remark ?? last.words, utcMs: last.endUtcMs! }] : [];
  });

export type SiteState = 'closed' | 'open' | 'not known';

export interface KnownRoof {
  readonly words: SiteState | 'moving';
  /** When it was last known; null where it never was. */
  readonly utcMs: number | null;
}

/** The roof by the newest thing that is known of it: a step that was confirmed, or a reading of the site. */
export function roofNow(actions: readonly RunAction[], site: SiteReading | undefined): KnownRoof {
  const last = actions.find(({ kind, outcome }) => (kind === 'open roof' || kind === 'close roof') && outcome !== null);
  const isNewer = (site?.utcMs ?? 0) > (last?.endUtcMs ?? 0);
  if (site?.roof && isNewer) return { words: site.roof, utcMs: site.utcMs };
  if (!last || last.outcome !== 'done') return { words: 'not known', utcMs: last?.endUtcMs ?? null };
  return { words: last.kind === 'open roof' ? 'open' : 'closed', utcMs: last.endUtcMs };
}

/** Whether a hold stands that nobody has lifted. @param orders the newest first */
export const isHeld = (orders: readonly ShownOrder[]): boolean =>
  orders.find(({ kind }) => kind === 'hold' || kind === 'resume')?.kind === 'hold';

export const heldWords = (orders: readonly ShownOrder[]): string =>
  `Held by ${orders.find(({ kind }) => kind === 'hold')!.by}: nothing new is begun. After an hour it goes on by itself.`;

const SAID: Readonly<Record<HandOrder, string>> = {
  hold: 'held it',
  resume: 'said that it goes on',
  leave: 'left a target for tonight',
  last: 'asked to close after the exposure',
};

/** "Last by hand: Petra Lund let it go on." */
export const lastOrderWords = ([last]: readonly ShownOrder[]): string => `Last by hand: ${last.by} ${SAID[last.kind]}.`;

/** Whether the night can still be told something. */
export const isUnderWay = ({ state }: NightRun): boolean => ACTIVE.includes(state);
