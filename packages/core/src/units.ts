// Conversions and branded quantities shared by every area of the core.

declare const brand: unique symbol;
type Branded<Base, Name extends string> = Base & { readonly [brand]?: Name };

/** Milliseconds since 1970-01-01T00:00:00Z, leap seconds not counted. */
export type UtcMs = Branded<number, 'UtcMs'>;
/** The local civil date of a night's evening, as YYYY-MM-DD. */
export type NightDate = Branded<string, 'NightDate'>;

export const MINUTE_MS = 60_000;
export const HOUR_MS = 3_600_000;
export const DAY_MS = 86_400_000;
export const ARCSEC_PER_DEG = 3600;

const DEG_IN_RAD = Math.PI / 180;
const RAD_IN_DEG = 180 / Math.PI;

/** Degrees to radians. */
export const toRad = (deg: number): number => deg * DEG_IN_RAD;
/** Radians to degrees. */
export const toDeg = (rad: number): number => rad * RAD_IN_DEG;
/** Arcseconds to radians. */
export const arcsecToRad = (arcsec: number): number => toRad(arcsec / ARCSEC_PER_DEG);

/** An angle brought into [0, 360). */
export function wrap360(deg: number): number {
  const wrapped = deg % 360;
  return wrapped < 0 ? wrapped + 360 : wrapped;
}

/** An angle brought into [−180, 180). */
export const wrap180 = (deg: number): number => wrap360(deg + 180) - 180;

/** Arc sine in radians of a value that rounding may have pushed past ±1. */
export const asinClamped = (value: number): number => Math.asin(clamp(value, -1, 1));

/** The value, or the nearer of the two bounds where it lies outside them. */
export const clamp = (value: number, low: number, high: number): number => Math.min(high, Math.max(low, value));

/** The middle value of a list (mean of the two middle ones for an even count); NaN for an empty list. */
export function medianOf(values: readonly number[]): number {
  if (values.length === 0) return NaN;
  const sorted = [...values].sort((a, b) => a - b);
  const middle = sorted.length >> 1;
  return sorted.length % 2 === 1 ? sorted[middle] : (sorted[middle - 1] + sorted[middle]) / 2;
}

/** The standard deviation of normal noise from the median absolute deviation: a few wild values hardly move it.
 * Source: 1 / Φ⁻¹(3/4). */
const MAD_TO_SIGMA = 1.4826;

/** Scatter of values around their median, as the standard deviation of normal noise. */
export const scatterAround = (median: number, values: readonly number[]): number =>
  MAD_TO_SIGMA * medianOf(values.map((value) => Math.abs(value - median)));

/** The value below which the given share of a list lies (nearest rank); NaN for an empty list. */
export function quantileOf(values: readonly number[], share: number): number {
  if (values.length === 0) return NaN;
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.max(0, Math.ceil(share * sorted.length) - 1))];
}
/** Ten to a power: several times faster than the operator, and this is where planning spends its time. */
export const tenTo = (exponent: number): number => Math.exp(Math.LN10 * exponent);
