// Charged hours that a project's goals would take: moonless ones for what bears no moon, moonlit ones for the rest.
import type { Rig } from '@meridiem/contract';
import type { ChargeWeights } from '@meridiem/core';
import { exposureCycleSec } from '@meridiem/core';
import type { GoalRow } from '../planning/index.ts';
import { exposuresLeft, settingsOf } from '../planning/index.ts';

export interface NeededHours {
  readonly darkHours: number;
  readonly brightHours: number;
}

/** Broadband is taken to want the moon down, narrowband to bear it: a start for whoever asks, who knows better. */
export function neededHours(rows: readonly GoalRow[], rig: Rig, weights: ChargeWeights): NeededHours {
  const clockHours = (isNarrow: boolean): number =>
    rows
      .filter(({ filterClass, enabled }) => enabled && (filterClass === 'narrowband') === isNarrow)
      .reduce((sum, row) => sum + (exposuresLeft(row, rows) * exposureCycleSec(rig.costs, settingsOf(row))) / 3600, 0);
  return { darkHours: clockHours(false) * weights.dark, brightHours: clockHours(true) * weights.bright };
}
