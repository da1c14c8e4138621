// Judging an exposure by its figures against recent ones of the same goal: one-sided, in robust sigmas, corrected for air and sky.
import { medianOf, scatterAround } from '../units.ts';
import { growthInAir, SEEING_EXPONENT } from './star-growth.ts';

export const FIGURES = ['starSize', 'starCount', 'guiding', 'background', 'elongation', 'starlight'] as const;
export type Figure = (typeof FIGURES)[number];

/** What was measured on one exposure, with the sky that its figures depend on. */
export interface JudgedExposure {
  readonly id: string;
  /** Of the evening; null where it is not known. */
  readonly nightDate: string | null;
  readonly exposureSec: number;
  /** Half-flux radius, pixels. */
  readonly starSizePx: number | null;
  readonly starCount: number | null;
  /** Root mean square, arcseconds. */
  readonly guidingArcsec: number | null;
  /** Electrons per pixel. */
  readonly backgroundE: number | null;
  /** Longer over shorter axis of stars. */
  readonly elongation: number | null;
  /** By matched catalogue stars: see `ZeroPoint`. */
  readonly zeroPointMag: number | null;
  readonly airmass: number;
  /** Predicted: see `ExposureConditions`. */
  readonly transparency: number;
  readonly skyRatio: number;
}

/** Robust sigmas past which a figure rejects; null switches that test off. */
export type JudgingRules = Readonly<Record<Figure, number | null>>;
export const DEFAULT_RULES: JudgingRules = {
  starSize: 3.5,
  starCount: 3.5,
  guiding: 3.5,
  background: 3.5,
  elongation: 3.5,
  starlight: 3.5,
};

/** Corrected figures that are usual for a rig and filter; a missing one is not tested. */
export type TypicalFigures = Readonly<Partial<Record<Figure, number>>>;

export interface FigureOutcome {
  readonly figure: Figure;
  /** Corrected to the zenith of a dark night. */
  readonly value: number;
  readonly usual: number;
  /** Robust sigmas to the bad side; negative where better than usual. */
  readonly sigmas: number;
}

export interface RuleVerdict {
  readonly verdict: 'accepted' | 'rejected' | 'undecided';
  /** The figure that is furthest out. */
  readonly worst: FigureOutcome | null;
  /** How many earlier exposures it was held against. */
  readonly held: number;
}

/** Exposures an exposure is held against, at most; fewer than the least give no more than "undecided". */
export const REFERENCE_MOST = 30;
export const REFERENCE_LEAST = 8;
/** So many rule rejections in a row, close together, are a new level and no run of bad frames. */
export const NEW_LEVEL_RUN = 5;

/** A reference that happens to agree closely still allows this much scatter, as a share of the usual value. */
const LEAST_SIGMA_SHARE: Readonly<Record<Figure, number>> = {
  starSize: 0.02,
  starCount: 0.05,
  guiding: 0.08,
  background: 0.04,
  elongation: 0.04,
  starlight: 0.02,
};
/** With a typical value alone, scatter is unknown; this share is one sigma. */
const TYPICAL_SIGMA_SHARE = 0.12;
/** Stars per magnitude of depth: log10 N grows by 0.35 a magnitude at these depths. Source: Bahcall & Soneira 1980, ApJS 44, 73 (mean slope, V 13–17). */
const COUNT_SLOPE = 0.35;

/** @param reference earlier exposures of the goal, not rejected by hand or for cloud or trail, since the last new level */
export function judgeExposure(
  exposure: JudgedExposure,
  reference: readonly JudgedExposure[],
  rules: JudgingRules,
  typical: TypicalFigures = {},
): RuleVerdict {
  const recent = reference.slice(-REFERENCE_MOST);
  const isKnown = recent.length >= REFERENCE_LEAST;
  const outcomes = figuresAgainst(exposure, recent, typical).flatMap((outcome) => {
    const limit = rules[outcome.figure];
    return limit === null ? [] : [{ ...outcome, limit }];
  });
  const past = outcomes.filter(({ sigmas, limit }) => sigmas > limit);
  // Cloud brightens the sky as well: the lost stars tell it apart from moonlight.
  const telling = past.some(({ figure }) => figure !== 'background')
    ? past.filter(({ figure }) => figure !== 'background')
    : past;
  const worst = (past.length > 0 ? telling : outcomes).reduce<FigureOutcome | null>(
    (most, { figure, value, usual, sigmas }) =>
      most && most.sigmas >= sigmas ? most : { figure, value, usual, sigmas },
    null,
  );
  const verdict = !isKnown || !worst ? 'undecided' : past.length > 0 ? 'rejected' : 'accepted';
  return { verdict, worst, held: recent.length };
}

/** Each measured figure against what is usual, whether a rule looks at it or not.
 * @param reference as for `judgeExposure` */
export function figuresAgainst(
  exposure: JudgedExposure,
  reference: readonly JudgedExposure[],
  typical: TypicalFigures = {},
): FigureOutcome[] {
  const recent = reference.slice(-REFERENCE_MOST);
  return FIGURES.flatMap((figure) => {
    if (recent.length < REFERENCE_LEAST)
      return outcomeOf(figure, correctedFigure(exposure, figure), typicalOf(typical, figure)) ?? [];
    if (figure === 'starSize') return sizeAgainst(exposure, usualSizeOf(recent)) ?? [];
    return outcomeOf(figure, correctedFigure(exposure, figure), usualOf(recent, figure)) ?? [];
  });
}

function outcomeOf(figure: Figure, value: number | null, usual: Usual | null): FigureOutcome | null {
  if (value === null || !usual) return null;
  const worse = BAD_IS_LOW.has(figure) ? usual.median - value : value - usual.median;
  return { figure, value, usual: usual.median, sigmas: worse / usual.sigma };
}

/** How large stars usually are, and how they grow with airmass. */
export interface UsualSize extends Usual {
  readonly airExponent: number;
}

/** @returns null where fewer than eight tell it */
export function usualSizeOf(reference: readonly JudgedExposure[]): UsualSize | null {
  const sizes = reference.flatMap(({ starSizePx, airmass }) => (starSizePx === null ? [] : [{ starSizePx, airmass }]));
  if (sizes.length < REFERENCE_LEAST) return null;
  const airExponent = growthInAir(sizes);
  const atZenith = sizes.map(({ starSizePx, airmass }) => starSizePx / airmass ** airExponent);
  return { ...spreadOf(atZenith, 'starSize'), airExponent };
}

/** Null where its stars were not measured, or too few others'. */
export const sizeAgainst = (exposure: JudgedExposure, usual: UsualSize | null): FigureOutcome | null =>
  usual && exposure.starSizePx !== null
    ? outcomeOf('starSize', exposure.starSizePx / exposure.airmass ** usual.airExponent, usual)
    : null;

/** Whether the last rejections in a row are no outliers but a stable new level: the seeing of another season, another focus offset.
 * @param rejected the newest rule rejections in a row, oldest first
 * @param figure for which the newest was rejected */
export function isNewLevel(rejected: readonly JudgedExposure[], figure: Figure): boolean {
  if (rejected.length < NEW_LEVEL_RUN) return false;
  const values = rejected.slice(-NEW_LEVEL_RUN).flatMap((exposure) => correctedFigure(exposure, figure) ?? []);
  if (values.length < NEW_LEVEL_RUN) return false;
  const { median } = spreadOf(values, figure);
  const tolerated = 2 * LEAST_SIGMA_SHARE[figure] * median;
  return values.every((value) => Math.abs(value - median) <= tolerated);
}

/** A figure as it would be at the zenith under a dark sky; null where it was not measured. */
export function correctedFigure(exposure: JudgedExposure, figure: Figure): number | null {
  let figures = remembered.get(exposure);
  if (!figures) remembered.set(exposure, (figures = correctedFigures(exposure)));
  return figures[figure];
}

/** Each exposure is held against by the thirty after it. */
const remembered = new WeakMap<JudgedExposure, Record<Figure, number | null>>();

const correctedFigures = (exposure: JudgedExposure): Record<Figure, number | null> => ({
  starSize: corrected(exposure, 'starSize'),
  starCount: corrected(exposure, 'starCount'),
  guiding: corrected(exposure, 'guiding'),
  background: corrected(exposure, 'background'),
  elongation: corrected(exposure, 'elongation'),
  starlight: corrected(exposure, 'starlight'),
});

function corrected(exposure: JudgedExposure, figure: Figure): number | null {
  const { airmass, transparency, skyRatio, exposureSec } = exposure;
  switch (figure) {
    case 'starSize':
      return exposure.starSizePx === null ? null : exposure.starSizePx / airmass ** SEEING_EXPONENT;
    case 'starCount': {
      const depthMag = 2.5 * Math.log10((transparency * Math.sqrt(exposureSec)) / Math.sqrt(skyRatio));
      return exposure.starCount === null ? null : exposure.starCount / 10 ** (COUNT_SLOPE * depthMag);
    }
    case 'guiding':
      return exposure.guidingArcsec;
    case 'background':
      return exposure.backgroundE === null ? null : exposure.backgroundE / exposureSec / skyRatio;
    case 'elongation':
      return exposure.elongation;
    case 'starlight': // Of a star of magnitude zero, the air's share taken out.
      return exposure.zeroPointMag === null ? null : 10 ** (0.4 * exposure.zeroPointMag) / transparency;
  }
}

const BAD_IS_LOW: ReadonlySet<Figure> = new Set(['starCount', 'starlight']);

interface Usual {
  readonly median: number;
  readonly sigma: number;
}

function usualOf(reference: readonly JudgedExposure[], figure: Figure): Usual | null {
  const values = reference.flatMap((exposure) => correctedFigure(exposure, figure) ?? []);
  return values.length < REFERENCE_LEAST ? null : spreadOf(values, figure);
}

function spreadOf(values: readonly number[], figure: Figure): Usual {
  const median = medianOf(values);
  const spread = scatterAround(median, values);
  return { median, sigma: Math.max(spread, LEAST_SIGMA_SHARE[figure] * Math.abs(median)) };
}

function typicalOf(typical: TypicalFigures, figure: Figure): Usual | null {
  const median = typical[figure];
  return median === undefined ? null : { median, sigma: TYPICAL_SIGMA_SHARE * median };
}
