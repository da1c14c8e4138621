// The observatory and one of its rigs as the setting that objects are ranked under.
import type { Observatory, Rig } from '@meridiem/contract';
import type { ObservingNight, WorthClass, WorthSetting } from '@meridiem/core';
import { fieldOf, horizonProfile, limitsInForce, nightDatePlus, observingNight } from '@meridiem/core';

const CLASSES = ['broadband', 'narrowband', 'colour'] as const;
/** How long an exposure is where no recipe says so. */
const USUAL_EXPOSURE_SEC = 180;
/** Filters that stand for their class before others, by letter. */
const STANDING = ['L', 'V', 'Ha'];

/** One class of filters for each that the rig has fitted; each stands on its most usual filter. */
export function worthClasses(observatory: Observatory, rig: Rig): (WorthClass & { letter: string })[] {
  const fitted = observatory.filters.filter(({ id }) => rig.slots.some(({ filterId }) => filterId === id));
  const stored = observatory.limits.map((limit) => ({ ...limit, scope: 'observatory' as const }));
  return CLASSES.flatMap((filterClass) => {
    const own = fitted.filter((filter) => filter.class === filterClass);
    const filter = own.find(({ letter }) => STANDING.includes(letter)) ?? own[0];
    if (!filter) return [];
    const recipe = observatory.recipes.find(({ rigId, filterId }) => rigId === rig.id && filterId === filter.id);
    return [
      {
        class: filterClass,
        letter: filter.letter,
        filter,
        exposureSec: recipe?.exposureSec ?? USUAL_EXPOSURE_SEC,
        limits: limitsInForce(stored, filterClass),
      },
    ];
  });
}

/** @param classes what is looked at; one a class of the rig's filters where left out */
export function worthSetting(
  observatory: Observatory,
  rig: Rig,
  classes: readonly WorthClass[] = worthClasses(observatory, rig),
): WorthSetting {
  const { latitudeDeg, longitudeDeg, elevationM, timeZone, zenithMagV, bounds } = observatory;
  return {
    site: { latitudeDeg, longitudeDeg, elevationM },
    timeZone,
    horizon: horizonProfile(observatory.horizon),
    bounds,
    zenithMagV,
    detector: { ...rig, binning: 1, readNoiseE: rig.cameraModes[0]?.readNoiseE ?? 2 },
    classes,
  };
}

export const shorterSideDeg = (rig: Rig): number => {
  const { widthDeg, heightDeg } = fieldOf(rig);
  return Math.min(widthDeg, heightDeg);
};

export const nightsFrom = ({ tonight, timeZone }: Observatory, count: number): ObservingNight[] =>
  Array.from({ length: count }, (_, i) => observingNight(nightDatePlus(tonight, i), timeZone));
