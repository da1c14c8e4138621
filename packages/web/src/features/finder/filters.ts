// Which of the ranked targets are shown, as the address says.
import type { Interval, Site, Worth } from '@meridiem/core';
import { directionOf, frameOfDate } from '@meridiem/core';
import type { FinderTarget } from './components/ChosenTarget.tsx';
import { isRobust } from './target-words.ts';

export interface RankedTarget {
  readonly target: FinderTarget;
  readonly worth: Worth;
}

/** Quarters of the sky by the azimuth in their middle. */
export const SIDES: Readonly<Record<string, number>> = { north: 0, east: 90, south: 180, west: 270 };

interface Filters {
  readonly kind: string | null;
  readonly constellation: string | null;
  readonly faintestMag: number | null;
  readonly fromArcmin: number | null;
  readonly toArcmin: number | null;
  readonly robust: boolean;
  readonly side: string | null;
}

function filtersFrom(search: URLSearchParams): Filters {
  const number = (key: string): number | null => {
    const text = search.get(key);
    return text && Number.isFinite(Number(text)) ? Number(text) : null;
  };
  return {
    kind: search.get('kind'),
    constellation: search.get('in'),
    faintestMag: number('mag'),
    fromArcmin: number('from'),
    toArcmin: number('to'),
    robust: search.get('robust') === '1',
    side: Object.keys(SIDES).find((side) => side === search.get('side')) ?? null,
  };
}

/** Ranked targets with any worth that pass the filters of an address; what isn't known of a target doesn't pass.
 * @param night of whose middle a side of the sky is asked */
export function passing(
  ranked: readonly Worth[],
  targets: readonly FinderTarget[],
  search: URLSearchParams,
  { site, night }: { readonly site: Site; readonly night: Interval },
): RankedTarget[] {
  const { kind, constellation, faintestMag, fromArcmin, toArcmin, robust, side } = filtersFrom(search);
  const middle = (night.startUtcMs + night.endUtcMs) / 2;
  const frame = frameOfDate(middle);
  const isThere = (target: FinderTarget): boolean => {
    const { altitudeDeg, azimuthDeg } = directionOf(site, target, middle, frame);
    const offDeg = Math.abs(((azimuthDeg - SIDES[side!] + 540) % 360) - 180);
    return altitudeDeg > 0 && offDeg <= 45;
  };
  return ranked
    .filter(({ worth }) => worth > 0)
    .map((worth) => ({ worth, target: targets[worth.index] }))
    .filter(
      ({ target }) =>
        target &&
        (!kind || target.kind === kind) &&
        (!constellation || target.constellation === constellation) &&
        (faintestMag === null || (target.mag !== null && target.mag <= faintestMag)) &&
        (fromArcmin === null || (target.sizeArcmin ?? 0) >= fromArcmin) &&
        (toArcmin === null || (target.sizeArcmin !== null && target.sizeArcmin <= toArcmin)) &&
        (!robust || isRobust(target)) &&
        (side === null || isThere(target)),
    );
}
