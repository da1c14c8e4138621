// What the exposures of a stay say of it: stars lost to cloud, stars that grow, guiding that has gone bad; and when to focus.
import type { RunStep } from '@meridiem/contract';
import type { NightRules } from '@meridiem/core';
import type { ExposureOutcome } from './context.ts';

/** How a pause for lost stars ends in words: "40 of 180 stars". */
export const STARS_LOST = 'stars';

interface Focused {
  readonly utcMs: number;
  readonly airC: number | null;
}

export interface StayState {
  /** A focus was found, or tried. */
  focused(at: Focused): void;
  /** Why the focus is to be found again, in words; null while it holds. */
  focusDue(now: Focused, everyMin: number): string | null;
  /** Takes in what came of an exposure. @returns why the sky counts as covered, in words; null where it does not */
  takeIn(step: RunStep, outcome: ExposureOutcome): string | null;
  /** How often in a row guiding was worse than the pause limit. */
  readonly badGuiding: number;
}

export function stayState(rules: NightRules): StayState {
  let at: Focused | null = null;
  /** By filter: the smallest stars since the last focus, and the newest. */
  let sizes = new Map<string, { readonly smallestPx: number; readonly lastPx: number }>();
  const mostStars = new Map<string, number>();
  let badGuiding = 0;
  return {
    focused(now) {
      at = now;
      sizes = new Map();
    },
    focusDue({ utcMs, airC }, everyMin) {
      if (!at) return null;
      if (everyMin > 0 && utcMs - at.utcMs > 60_000 * everyMin) return `${everyMin} minutes have passed`;
      const changeC = airC === null || at.airC === null ? 0 : Math.abs(airC - at.airC);
      if (changeC >= rules.focusAfterC) return `the air has changed by ${changeC.toFixed(1)} °C`;
      const growth = Math.max(0, ...[...sizes.values()].map(({ smallestPx, lastPx }) => lastPx / smallestPx - 1));
      return 100 * growth >= rules.focusAfterGrowthPercent ? `stars have grown by ${Math.round(100 * growth)} %` : null;
    },
    takeIn({ filterLetter }, { exposure }) {
      if (!exposure) return null;
      const { halfFluxRadiusPx: px, starCount, guidingRmsArcsec } = exposure;
      const before = sizes.get(filterLetter)?.smallestPx ?? Number.POSITIVE_INFINITY;
      if (px !== null) sizes.set(filterLetter, { smallestPx: Math.min(before, px), lastPx: px });
      badGuiding = guidingRmsArcsec !== null && guidingRmsArcsec > rules.guidingPauseArcsec ? badGuiding + 1 : 0;
      const most = Math.max(starCount, mostStars.get(filterLetter) ?? 0);
      mostStars.set(filterLetter, most);
      return starCount < most * (1 - rules.starLossPercent / 100) ? `${starCount} of ${most} ${STARS_LOST}` : null;
    },
    get badGuiding() {
      return badGuiding;
    },
  };
}
