// One simulated exposure: plausible measured figures, spoiled by cloud, wind or a passing satellite now and then.
import type { FilterClass } from '@meridiem/core';
import { clamp, normalFrom, seededRandom, seedFrom } from '@meridiem/core';
import { cloudShare } from './clouds.ts';

export interface ExposureOrder {
  /** Equal ids give equal exposures. */
  readonly id: string;
  /** Equal seeds share one sky. */
  readonly skySeed: number;
  readonly overcast: number;
  readonly startUtcMs: number;
  readonly exposureSec: number;
  readonly filterClass: FilterClass;
  readonly imageScaleArcsec: number;
  readonly gain: number;
  readonly sensorC: number;
  readonly rateShare: number;
  readonly airmass: number;
  readonly transparency: number;
  /** Sky brightness in the filter over its dark zenith. */
  readonly skyRatio: number;
  readonly afterMove: boolean;
}

export interface SimulatedExposure {
  readonly startUtcMs: number;
  readonly exposureSec: number;
  readonly gain: number;
  readonly sensorC: number;
  readonly halfFluxRadiusPx: number;
  readonly starCount: number;
  readonly guidingRmsArcsec: number;
  readonly backgroundE: number;
  readonly temperatureC: number;
  readonly afterMove: boolean;
  /** Measured signal rate over the target's best. */
  readonly rateMeasured: number;
  readonly cloudShare: number;
}

/** At the zenith of a clear, dark night, in 120 seconds. */
const STARS = { broadband: 900, colour: 700, narrowband: 260 } as const;
const BACKGROUND_E = { broadband: 420, colour: 380, narrowband: 45 } as const;
/** Stars per magnitude of depth. Source: Bahcall & Soneira 1980, ApJS 44, 73. */
const COUNT_SLOPE = 0.35;
/** What optics and sampling add to the half-flux radius. */
const OPTICS_BLUR_PX = 1.1;
/** The camera fails to deliver this share of frames: a lost exposure, not a bad one. */
const LOST_SHARE = 0.004;

/** The exposure, or null where the camera lost it. */
export function simulatedExposure(order: ExposureOrder): SimulatedExposure | null {
  const random = seededRandom(seedFrom(order.id));
  if (random() < LOST_SHARE) return null;
  const cloud = cloudShare(order.skySeed, order.startUtcMs + order.exposureSec * 500, order.overcast);
  const seeingArcsec = clamp((2.1 + 0.12 * normalFrom(random)) * seeingOf(order.skySeed) * order.airmass ** 0.6, 1, 8);
  const windy = random() < 0.02;
  const guidingRmsArcsec = clamp(0.62 + 0.07 * normalFrom(random) + (windy ? 1.4 : 0), 0.3, 4);
  const blurArcsec =
    Math.hypot(seeingArcsec, 2.35 * guidingRmsArcsec * 0.6) * (order.afterMove && random() < 0.1 ? 1.5 : 1);
  const clear = 1 - cloud;
  const depthMag =
    2.5 * Math.log10(order.transparency * clear * Math.sqrt(order.exposureSec / 120 / order.skyRatio) + 1e-9);
  return {
    startUtcMs: order.startUtcMs,
    exposureSec: order.exposureSec,
    gain: order.gain,
    sensorC: round(order.sensorC + 0.1 * normalFrom(random), 1),
    halfFluxRadiusPx: round(Math.hypot(blurArcsec / 2 / order.imageScaleArcsec, OPTICS_BLUR_PX), 2),
    starCount: Math.max(
      0,
      Math.round(STARS[order.filterClass] * 10 ** (COUNT_SLOPE * depthMag) * (1 + 0.04 * normalFrom(random))),
    ),
    guidingRmsArcsec: round(guidingRmsArcsec, 2),
    backgroundE: round(
      BACKGROUND_E[order.filterClass] *
        (order.exposureSec / 120) *
        order.skyRatio *
        (1 + 0.8 * cloud) *
        (1 + 0.03 * normalFrom(random)),
      1,
    ),
    temperatureC: round(11 + 2 * normalFrom(random), 1),
    afterMove: order.afterMove,
    rateMeasured: round(clamp(order.rateShare * clear ** 2 * (1 + 0.03 * normalFrom(random)), 0, 1.2), 3),
    cloudShare: round(cloud, 3),
  };
}

/** Some nights are steadier than others. */
const seeingOf = (skySeed: number): number => 1 + 0.06 * normalFrom(seededRandom(skySeed ^ 0x5eed));

const round = (value: number, decimals: number): number => Math.round(value * 10 ** decimals) / 10 ** decimals;
