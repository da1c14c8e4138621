// What members are entitled to of a night: its open hours, shared among those who then have work that can be exposed.
import type { Interval } from '../time/nights.ts';
import { HOUR_MS } from '../units.ts';

/** Sky classes that shares are given in: without the moon and with it. */
export const SHARED_SKIES = ['dark', 'bright'] as const;
export type SharedSky = (typeof SHARED_SKIES)[number];

/** A stretch in which a rig could expose: neither weather, nor a fault, nor a visit took it. */
export interface OpenStretch extends Interval {
  readonly skyClass: SharedSky;
}

/** When a member had granted work that could be exposed. */
export interface UsableWork {
  readonly memberId: string;
  readonly windows: readonly Interval[];
}

export interface EntitledHours {
  readonly memberId: string;
  readonly skyClass: SharedSky;
  /** Weighted as hours are charged. */
  readonly hours: number;
}

export interface SharesInForce {
  /** A member's share of the hours of a sky class, ≥ 0; shares need not add up to 1. */
  readonly shareOf: (memberId: string, skyClass: SharedSky) => number;
  /** Share of a clock hour that is charged. */
  readonly weights: Readonly<Record<SharedSky, number>>;
}

/** Shares out open hours. At each moment the shares are rescaled over the members who have usable work then: what others
 * could not use costs nobody. An hour that nobody could use entitles nobody. */
export function entitledHours(
  open: readonly OpenStretch[],
  work: readonly UsableWork[],
  { shareOf, weights }: SharesInForce,
): EntitledHours[] {
  const sums = new Map<string, EntitledHours>();
  for (const { skyClass, ...stretch } of open) {
    const cuts = cutsIn(stretch, work);
    for (let i = 0; i + 1 < cuts.length; i++) {
      const able = work.filter(({ windows }) => windows.some((w) => w.startUtcMs <= cuts[i] && w.endUtcMs > cuts[i]));
      const total = able.reduce((sum, { memberId }) => sum + shareOf(memberId, skyClass), 0);
      if (total <= 0) continue;
      const hours = ((cuts[i + 1] - cuts[i]) / HOUR_MS) * weights[skyClass];
      for (const { memberId } of able) {
        const key = `${memberId} ${skyClass}`;
        const part = (hours * shareOf(memberId, skyClass)) / total;
        sums.set(key, { memberId, skyClass, hours: (sums.get(key)?.hours ?? 0) + part });
      }
    }
  }
  return [...sums.values()].filter(({ hours }) => hours > 0);
}

function cutsIn({ startUtcMs, endUtcMs }: Interval, work: readonly UsableWork[]): number[] {
  const inside = work
    .flatMap(({ windows }) => windows.flatMap((window) => [window.startUtcMs, window.endUtcMs]))
    .filter((utcMs) => utcMs > startUtcMs && utcMs < endUtcMs);
  return [...new Set([startUtcMs, ...inside, endUtcMs])].toSorted((a, b) => a - b);
}
