import type { SkyPosition } from '@meridiem/core';
import { angleBetweenDeg, unitVector } from '@meridiem/core';

type Star = readonly [raDeg: number, decDeg: number, mag: number];

/** The star that a click means: the brightest within reach of it; the place itself where there is none. */
export function starMeant(place: SkyPosition, stars: readonly Star[], reachDeg: number): SkyPosition {
  const direction = unitVector(place);
  const near = stars.filter(([raDeg, decDeg]) => angleBetweenDeg(direction, unitVector({ raDeg, decDeg })) <= reachDeg);
  if (near.length === 0) return place;
  const [raDeg, decDeg] = near.reduce((a, b) => (b[2] < a[2] ? b : a));
  return { raDeg, decDeg };
}
