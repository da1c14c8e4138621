// Signal rates of eight filters under six skies for one middling rig: a table for people and for tests.
import type { FilterSky } from '../src/exposure/filter-sky.ts';
import { moonlightRatio, twilightRatio } from '../src/exposure/filter-sky.ts';
import type { Detector } from '../src/exposure/signal-rate.ts';
import { rateModel, signalRate } from '../src/exposure/signal-rate.ts';

const ZENITH_MAG_V = 21.8;
const FULL = { phaseAngleDeg: 5, moonAltitudeDeg: 50, separationDeg: 60 };
/** Three quarters lit. */
const GIBBOUS = { phaseAngleDeg: 60, moonAltitudeDeg: 45, separationDeg: 75 };
const HALF = { phaseAngleDeg: 90, moonAltitudeDeg: 40, separationDeg: 90 };
const DARK_SUN_DEG = -40;

export interface RateSky {
  readonly name: string;
  readonly altitudeDeg: number;
  readonly sunAltitudeDeg: number;
  readonly moon: {
    readonly phaseAngleDeg: number;
    readonly moonAltitudeDeg: number;
    readonly separationDeg: number;
  } | null;
}

export const RATE_SKIES: readonly RateSky[] = [
  { name: 'dark, zenith', altitudeDeg: 90, sunAltitudeDeg: DARK_SUN_DEG, moon: null },
  { name: 'dark, 35° high', altitudeDeg: 35, sunAltitudeDeg: DARK_SUN_DEG, moon: null },
  { name: 'half moon 90° away', altitudeDeg: 70, sunAltitudeDeg: DARK_SUN_DEG, moon: HALF },
  { name: 'gibbous moon 75° away', altitudeDeg: 70, sunAltitudeDeg: DARK_SUN_DEG, moon: GIBBOUS },
  { name: 'full moon 60° away', altitudeDeg: 70, sunAltitudeDeg: DARK_SUN_DEG, moon: FULL },
  { name: 'sun at −13°', altitudeDeg: 70, sunAltitudeDeg: -13, moon: null },
];

const filter = (
  filterClass: FilterSky['class'],
  centreNm: number,
  widthNm: number,
  extinctionMagPerAirmass: number,
  zenithMag: number,
  moonFactor: number,
): FilterSky => ({
  class: filterClass,
  centreNm,
  widthNm,
  extinctionMagPerAirmass,
  zenithMag,
  moonFactor,
});

export const RATE_FILTERS: readonly (readonly [letter: string, filter: FilterSky])[] = [
  ['L', filter('broadband', 550, 260, 0.17, 21.6, 1)],
  ['V', filter('broadband', 550, 88, 0.172, 21.8, 1)],
  ['R', filter('broadband', 635, 95, 0.12, 21.0, 0.35)],
  ['G', filter('broadband', 530, 85, 0.17, 21.7, 1)],
  ['B', filter('broadband', 450, 95, 0.27, 22.3, 4)],
  ['Ha', filter('narrowband', 656.3, 5, 0.11, 20.9, 0.4)],
  ['OIII', filter('narrowband', 500.7, 5, 0.19, 21.9, 1.6)],
  ['SII', filter('narrowband', 672.4, 5, 0.1, 20.8, 0.35)],
];

const RIG: Detector = {
  apertureMm: 106,
  obstructionShare: 0,
  focalLengthMm: 530,
  pixelUm: 3.76,
  throughput: 0.55,
  readNoiseE: 1.6,
  darkCurrentEPerSec: 0.002,
  binning: 1,
};

/** Exposure lengths are 120 s through broad filters and 300 s through narrow ones. */
export function rateTable(): { letter: string; rates: number[] }[] {
  return RATE_FILTERS.map(([letter, sky]) => {
    const model = rateModel(sky, RIG, sky.class === 'narrowband' ? 300 : 120);
    return { letter, rates: RATE_SKIES.map((at) => signalRate(model, at.altitudeDeg, lightOf(at))) };
  });
}

const lightOf = ({ altitudeDeg, sunAltitudeDeg, moon }: RateSky) => ({
  moonRatioV: moon ? moonlightRatio({ ...moon, altitudeDeg, zenithMagV: ZENITH_MAG_V }) : 0,
  twilightRatioV: twilightRatio(sunAltitudeDeg, ZENITH_MAG_V),
});
