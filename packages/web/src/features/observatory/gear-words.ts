// What a change of a rig did to its exposures, and what is asked for goals under way, in words.
import type { GearFigures, GoalFate } from '@meridiem/contract';

export interface GearLine {
  readonly name: string;
  readonly was: string;
  readonly is: string;
}

const measured = (value: number | null, decimals: number, unit: string): string =>
  value === null ? 'not measured' : `${value.toFixed(decimals)}${unit}`;

export function gearLines(before: GearFigures, after: GearFigures): GearLine[] {
  const line = (name: string, words: (figures: GearFigures) => string): GearLine => ({
    name,
    was: words(before),
    is: words(after),
  });
  return [
    line('half-flux radius of stars', ({ halfFluxRadiusArcsec }) => measured(halfFluxRadiusArcsec, 2, '″')),
    line('guiding', ({ guidingRmsArcsec }) => measured(guidingRmsArcsec, 2, '″')),
    line('from one exposure to the next', ({ gapSec }) => measured(gapSec, 0, ' s')),
    line('exposures compared', ({ exposures }) => String(exposures)),
  ];
}

export const FATE_WORDS: Readonly<Record<GoalFate, string>> = {
  same: 'go on as they are: exposures of both count together',
  new: 'begin new goals for what is missing: old and new stay apart',
  close: 'close them with what they have',
};
