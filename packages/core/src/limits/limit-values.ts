// Limits and bounds: which of several stored values is in force, with its origin.
import type { FilterClass } from '../exposure/filter-sky.ts';
import type { LimitKey } from './limit-table.ts';
import { LIMIT_KEYS, limitRow } from './limit-table.ts';

export type LimitScope = 'observatory' | 'project' | 'goal';

/** One stored row: a value, or off (`null` value). A row that is absent inherits. */
export interface StoredLimit {
  readonly scope: LimitScope;
  /** null applies to every class. */
  readonly class: FilterClass | null;
  readonly key: LimitKey;
  /** null = off. */
  readonly value: number | null;
}

/** A limit in force. */
export interface LimitInForce {
  readonly value: number | null;
  readonly origin: LimitOrigin;
}
export type LimitOrigin = 'goal' | 'project class' | 'project' | 'observatory class' | 'observatory' | 'default';
export type LimitsInForce = Readonly<Record<LimitKey, LimitInForce>>;

const DEFAULT_NARROWBAND_MIN_RATE_SHARE = 0.2;

/** The value of each limit for a goal of a class: goal ?? project[class] ?? project ?? observatory[class] ?? observatory ?? default. */
export function limitsInForce(stored: readonly StoredLimit[], filterClass: FilterClass): LimitsInForce {
  const entries = LIMIT_KEYS.map((key) => [key, limitInForce(stored, filterClass, key)] as const);
  return Object.fromEntries(entries) as unknown as LimitsInForce;
}

function limitInForce(stored: readonly StoredLimit[], filterClass: FilterClass, key: LimitKey): LimitInForce {
  const candidates: readonly [LimitOrigin, LimitScope, FilterClass | null][] = [
    ['goal', 'goal', null],
    ['project class', 'project', filterClass],
    ['project', 'project', null],
    ['observatory class', 'observatory', filterClass],
    ['observatory', 'observatory', null],
  ];
  for (const [origin, scope, ofClass] of candidates) {
    const row = stored.find((limit) => limit.key === key && limit.scope === scope && limit.class === ofClass);
    if (row) return { value: row.value, origin };
  }
  const narrow = key === 'minRateShare' && filterClass === 'narrowband';
  return { value: narrow ? DEFAULT_NARROWBAND_MIN_RATE_SHARE : limitRow(key).byDefault, origin: 'default' };
}

/** What the observatory never allows, whoever asks. */
export interface Bounds {
  /** The sun's centre must be lower than this. */
  readonly sunAltitudeMaxDeg: number;
  /** The mount does not point lower than this. */
  readonly mountAltitudeMinDeg: number;
  /** An alt-azimuth mount's zenith hole; 0 = none. */
  readonly mountZenithHoleDeg: number;
}

export const DEFAULT_BOUNDS: Bounds = { sunAltitudeMaxDeg: -9, mountAltitudeMinDeg: 15, mountZenithHoleDeg: 0 };
