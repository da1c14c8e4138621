// Hours of nights by kind, for bars and columns; the sun-up part of a night says nothing unless somebody worked in it.
import type {
  AccountedNight,
  ChargeRow,
  ChargingRule,
  NightState,
  readAccountedNight,
  ResponseOf,
  TimeKind,
} from '@meridiem/contract';

import { duration } from '../../words/format.ts';

/** In the order of bars and columns. */
export const KINDS: readonly TimeKind[] = [
  'exposing',
  'overhead',
  'waiting',
  'weather',
  'fault',
  'calibration',
  'visit',
  'idle',
];

/** Each kind by form as well as by colour. */
export const KIND_CLASSES: Readonly<Record<TimeKind, string>> = {
  exposing: 'bg-ink',
  overhead: 'bg-soft hatched',
  waiting: 'bg-hairline hatched',
  weather: 'bg-soft checkered',
  fault: 'bg-signal',
  calibration: 'bg-brass',
  visit: 'bg-brass hatched',
  idle: 'border-y border-hairline',
};

const WORKED_BY_DAY: readonly TimeKind[] = ['calibration', 'visit'];

/** Hours of each kind with the sun down, and of work by day. */
export function hoursByKind(night: Pick<AccountedNight, 'spent'>): Record<TimeKind, number> {
  const hours = Object.fromEntries(KINDS.map((kind) => [kind, 0])) as Record<TimeKind, number>;
  for (const spent of night.spent)
    if (spent.skyClass !== 'day' || WORKED_BY_DAY.includes(spent.kind)) hours[spent.kind] += spent.hours;
  return hours;
}

export function summedHours(nights: readonly Pick<AccountedNight, 'spent'>[]): Record<TimeKind, number> {
  const sums = hoursByKind({ spent: [] });
  for (const night of nights) {
    const hours = hoursByKind(night);
    for (const kind of KINDS) sums[kind] += hours[kind];
  }
  return sums;
}

export type Stretch = ResponseOf<typeof readAccountedNight>['stretches'][number];

/** A line of a night's list: a stay with its exposures and overheads as one, or a stretch as it is. */
export interface NightLine {
  readonly kind: TimeKind;
  readonly startUtcMs: number;
  readonly endUtcMs: number;
  readonly exposingSec: number;
  readonly isDay: boolean;
  /** Of the line with the moon up. */
  readonly moonlitSec: number;
  readonly projectId: string | null;
  readonly projectName: string | null;
}

/** Exposures and the overheads around them are one line as long as the project stays the same. */
export function linesOf(stretches: readonly Stretch[]): NightLine[] {
  const lines: NightLine[] = [];
  for (const { kind, skyClass, startUtcMs, endUtcMs, projectId, projectName } of stretches) {
    const sec = (endUtcMs - startUtcMs) / 1000;
    const lineKind = kind === 'overhead' ? 'exposing' : kind;
    const isDay = skyClass === 'day';
    const [exposingSec, moonlitSec] = [kind === 'exposing' ? sec : 0, skyClass === 'bright' ? sec : 0];
    const last = lines.at(-1);
    if (last && last.kind === lineKind && last.projectName === projectName && last.isDay === isDay)
      lines[lines.length - 1] = {
        ...last,
        endUtcMs,
        exposingSec: last.exposingSec + exposingSec,
        moonlitSec: last.moonlitSec + moonlitSec,
      };
    else lines.push({ kind: lineKind, startUtcMs, endUtcMs, exposingSec, isDay, moonlitSec, projectId, projectName });
  }
  return lines;
}

/** "2 h 10 min exposing, 14 min overhead, moon up 30 min" */
export function lineWords({ kind, startUtcMs, endUtcMs, exposingSec, isDay, moonlitSec }: NightLine): string {
  const sec = (endUtcMs - startUtcMs) / 1000;
  const main =
    kind === 'exposing'
      ? `${duration(exposingSec)} exposing, ${duration(sec - exposingSec)} overhead`
      : `${kind} ${duration(sec)}`;
  if (isDay) return `${main}, sun up`;
  if (moonlitSec < 30) return main;
  return `${main}, moon up${sec - moonlitSec < 30 ? '' : ` ${duration(moonlitSec)}`}`;
}

export const STATE_WORDS: Readonly<Record<NightState, string>> = {
  ahead: 'not over',
  open: 'open',
  closed: 'closed',
  changed: 'changed since closed',
};

/** How many nights wait to be closed. */
export const dueCount = (nights: readonly Pick<AccountedNight, 'state'>[]): number =>
  nights.filter(({ state }) => state === 'open' || state === 'changed').length;

/** "open nights 3 of 30: their hours are worked out from the ledger and not charged yet" */
export function standingWords(nights: readonly Pick<AccountedNight, 'state'>[]): string {
  const due = dueCount(nights);
  const over = nights.filter(({ state }) => state !== 'ahead').length;
  if (over === 0) return 'None of these nights is over yet.';
  if (due === 0) return over === 1 ? 'This night is closed.' : `All ${over} nights are closed.`;
  return `${due} of ${over} nights ${due === 1 ? 'is' : 'are'} to be closed; only closed nights are charged.`;
}

/** A charged row's dues; null where the observatory asks none. */
export const duesOf = (row: Pick<ChargeRow, 'chargedHours'>, rule: ChargingRule): string | null =>
  rule.duesPerHour === null ? null : `${(row.chargedHours * rule.duesPerHour).toFixed(2)} ${rule.currency}`;

/** Numbers of the charging rule as typed; undefined while one can't be read. */
export function ruleFrom(
  typed: Readonly<Record<'dark' | 'bright' | 'duesPerHour' | 'currency', string>>,
): ChargingRule | undefined {
  const number = (text: string): number =>
    /^\d+([.,]\d+)?$/.test(text.trim()) ? Number(text.trim().replace(',', '.')) : Number.NaN;
  const [dark, bright] = [number(typed.dark), number(typed.bright)];
  const dues = typed.duesPerHour.trim() === '' ? null : number(typed.duesPerHour);
  if ([dark, bright, dues ?? 0].some((value) => Number.isNaN(value))) return undefined;
  return { dark, bright, duesPerHour: dues, currency: typed.currency };
}
