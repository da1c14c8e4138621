// How bright the simulated sky is while the Sun is not far below the horizon.

const DARK_SKY_MAG_V = 21.5;
/** Of the Sun below the horizon; further down the sky is dark. */
const FITTED_TO_DEG = 15;

/** Of a clear sky near the zenith, magnitudes per square arcsecond in V. Source: Patat et al. 2006, A&A 455, 385, between 5° and 15°
 * below the horizon; from there to sunset along the slope at 5°. */
export function skyMagV(sunAltitudeDeg: number): number {
  const belowDeg = -sunAltitudeDeg;
  if (belowDeg > FITTED_TO_DEG) return DARK_SKY_MAG_V;
  const beyond = belowDeg - 5;
  const bend = beyond > 0 ? 0.041 * beyond ** 2 : 0;
  return Math.min(DARK_SKY_MAG_V, 11.84 + 1.411 * beyond - bend);
}
