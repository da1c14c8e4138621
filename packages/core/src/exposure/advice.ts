// Suggested exposure settings with their reasons: length from the sky and the camera's noise, the longest before stars saturate, gain, dither.
import type { FilterSky } from './filter-sky.ts';
import type { Detector } from './signal-rate.ts';
import { darkSkyElectronsPerSec, imageScaleArcsec } from './signal-rate.ts';

export interface CameraModeNumbers {
  readonly id: string;
  readonly name: string;
  readonly gain: number;
  readonly readNoiseE: number;
  readonly fullWellE: number;
}

/** Choices behind the advice. */
export const DEFAULT_ADVICE = {
  /** Noise that read noise may add to the sky's. */
  addedNoise: 0.05,
  /** Longest exposure anybody should be sent home with: guiding, satellites, wind. */
  longestSec: 600,
  /** Star to be kept from saturating, V magnitude. */
  keptStarMag: 9,
  /** Share of a star's light in its brightest pixel at a usual star size. */
  peakShare: 0.12,
  /** Time between dithers. */
  ditherEverySec: 360,
  /** Brightness of the sky over the dark zenith, as under a moon. */
  skyOverDark: 1,
} as const;
type AdviceChoices = Readonly<Record<keyof typeof DEFAULT_ADVICE, number>>;

/** Lengths people really use: a suggestion is rounded up to one of them, seconds. */
const USUAL_SEC = [5, 10, 15, 20, 30, 45, 60, 90, 120, 180, 240, 300, 600] as const;

/** Shortest exposure in which read noise adds no more than a share to the noise of the sky.
 * t = RN² / (B · ((1 + p)² − 1)), B in electrons per second and pixel.
 * @returns seconds */
export const shortestExposureSec = (readNoiseE: number, skyPerSec: number, addedNoise: number): number =>
  readNoiseE ** 2 / (skyPerSec * ((1 + addedNoise) ** 2 - 1));

/** Photons of a star per second through filter and optics as electrons. Source of the zero point: Bessell 1979, PASP 91, 589 (rounded). */
function starElectronsPerSec(filter: FilterSky, detector: Detector, mag: number): number {
  const scale = imageScaleArcsec(detector) ** 2;
  // The sky model holds the flux of `zenithMag` from one square arcsecond; a star is that much brighter or fainter.
  return (darkSkyElectronsPerSec(filter, detector) / scale) * 10 ** (0.4 * (filter.zenithMag - mag));
}

/** Longest exposure before the brightest star to be kept fills its pixel.
 * @returns seconds */
export function longestExposureSec(
  filter: FilterSky,
  detector: Detector,
  fullWellE: number,
  starMag: number = DEFAULT_ADVICE.keptStarMag,
): number {
  const peak = DEFAULT_ADVICE.peakShare * starElectronsPerSec(filter, detector, starMag);
  return fullWellE / (peak + darkSkyElectronsPerSec(filter, detector));
}

export interface ExposureAdvice {
  readonly mode: CameraModeNumbers;
  readonly exposureSec: number;
  readonly ditherEvery: number;
  /** What the sky alone would ask for, before rounding and the longest. */
  readonly shortestSec: number;
  /** Until the kept star saturates. */
  readonly longestSec: number;
  readonly skyPerSec: number;
  /** Whether the length is bounded by practice rather than by the sky. */
  readonly isBounded: boolean;
}

/** The mode and length to begin with: the mode with the deepest well whose sky drowns its read noise in a usual time; where none does, the quietest mode.
 * @param detector its read noise is the mode's */
export function exposureAdvice(
  filter: FilterSky,
  detector: Omit<Detector, 'readNoiseE'>,
  modes: readonly CameraModeNumbers[],
  choices: Partial<AdviceChoices> = {},
): ExposureAdvice | null {
  const { addedNoise, longestSec: guidedSec, ditherEverySec, skyOverDark } = { ...DEFAULT_ADVICE, ...choices };
  if (modes.length === 0) return null;
  const skyPerSec = skyOverDark * darkSkyElectronsPerSec(filter, { ...detector, readNoiseE: 0 });
  const shortest = (mode: CameraModeNumbers): number => shortestExposureSec(mode.readNoiseE, skyPerSec, addedNoise);
  const byWell = [...modes].sort((a, b) => b.fullWellE - a.fullWellE);
  const quietest = modes.reduce((best, mode) => (mode.readNoiseE < best.readNoiseE ? mode : best));
  const mode = byWell.find((candidate) => shortest(candidate) <= guidedSec / 2) ?? quietest;
  const shortestSec = shortest(mode);
  const usual = USUAL_SEC.find((sec) => sec >= shortestSec) ?? guidedSec;
  const exposureSec = Math.min(usual, guidedSec);
  return {
    mode,
    exposureSec,
    ditherEvery: Math.max(1, Math.round(ditherEverySec / exposureSec)),
    shortestSec,
    longestSec: longestExposureSec(filter, { ...detector, readNoiseE: mode.readNoiseE }, mode.fullWellE),
    skyPerSec,
    isBounded: shortestSec > guidedSec,
  };
}
