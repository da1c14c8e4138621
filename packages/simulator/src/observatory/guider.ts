// The simulated guider: it calibrates once, then holds the mount on its star, until cloud or a fault takes the star away.
import { guidingRmsArcsec } from './mount.ts';

const CALIBRATION_MS = 40_000;
const FIRST_ERROR_ARCSEC = 2.5;
const SETTLING_MS = 8000;

export class SimulatedGuider {
  #startedUtcMs: number | null = null;
  #disturbedUtcMs = 0;
  #isCalibrated = false;
  #isLost = false;
  #darksEndUtcMs = 0;

  start(utcMs: number): void {
    this.#startedUtcMs = utcMs;
    this.#disturbedUtcMs = utcMs + (this.#isCalibrated ? 0 : CALIBRATION_MS);
    this.#isLost = false;
  }
  stop(): void {
    this.#startedUtcMs = null;
    this.#isLost = false;
  }
  takeDarks(utcMs: number, { exposureSec, count }: { exposureSec: number; count: number }): void {
    this.stop();
    this.#darksEndUtcMs = utcMs + 1000 * exposureSec * count;
  }
  dither(utcMs: number): void {
    this.#disturbedUtcMs = utcMs;
  }
  state(utcMs: number, sees: boolean): 'stopped' | 'calibrating' | 'guiding' | 'lost' | 'taking darks' {
    if (utcMs < this.#darksEndUtcMs) return 'taking darks';
    if (this.#startedUtcMs === null) return 'stopped';
    if (!sees) this.#isLost = true;
    if (this.#isLost) return 'lost';
    if (!this.#isCalibrated && utcMs < this.#startedUtcMs + CALIBRATION_MS) return 'calibrating';
    this.#isCalibrated = true;
    return 'guiding';
  }
  /** Settling after a start or a dither, then as steady as the night is. */
  rmsArcsec(seed: number, utcMs: number): number {
    const steady = guidingRmsArcsec(seed, Math.floor(utcMs / 60_000));
    return steady + FIRST_ERROR_ARCSEC * Math.exp(-Math.max(0, utcMs - this.#disturbedUtcMs) / (SETTLING_MS / 2));
  }
}
