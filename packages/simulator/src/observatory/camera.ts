// The simulated camera: cooled at its own pace, and its pictures hold what the sky over it really held.
import type { CameraFrame, FrameOrder, LightFalling } from './render.ts';
import { renderFrame } from './render.ts';
import type { RigFacts } from './rig-facts.ts';

const COOLING_C_PER_MIN = 6;
const READOUT_MS = 2000;

export class CameraRefusal extends Error {}

interface Exposure {
  readonly startUtcMs: number;
  readonly exposureSec: number;
  readonly isLight: boolean;
  readonly frame: {
    readonly startX: number;
    readonly startY: number;
    readonly widthPx: number;
    readonly heightPx: number;
    readonly binning: number;
  };
  readonly number: number;
}

export class SimulatedCamera {
  readonly #facts: RigFacts;
  gain = 100;
  offset = 30;
  binning = 1;
  startX = 0;
  startY = 0;
  numX: number;
  numY: number;
  targetC = 10;
  isCooling = false;
  #exposure: Exposure | null = null;
  #taken = 0;
  #temperature: { readonly c: number; readonly atUtcMs: number };

  constructor(facts: RigFacts, ambientC: number, utcMs: number) {
    this.#facts = facts;
    this.numX = facts.widthPx;
    this.numY = facts.heightPx;
    this.#temperature = { c: ambientC, atUtcMs: utcMs };
  }

  temperatureC(utcMs: number, ambientC: number): number {
    const wanted = this.isCooling ? Math.max(this.targetC, ambientC - this.#facts.coolingBelowC) : ambientC;
    const most = (COOLING_C_PER_MIN * Math.max(0, utcMs - this.#temperature.atUtcMs)) / 60_000;
    const { c } = this.#temperature;
    return c > wanted ? Math.max(wanted, c - most) : Math.min(wanted, c + most);
  }
  cool(change: { targetC?: number; isOn?: boolean }, utcMs: number, ambientC: number): void {
    this.#temperature = { c: this.temperatureC(utcMs, ambientC), atUtcMs: utcMs };
    this.targetC = change.targetC ?? this.targetC;
    this.isCooling = change.isOn ?? this.isCooling;
  }
  coolerPowerPercent(utcMs: number, ambientC: number): number {
    if (!this.isCooling) return 0;
    return Math.max(
      0,
      Math.min(100, (100 * (ambientC - this.temperatureC(utcMs, ambientC))) / this.#facts.coolingBelowC),
    );
  }

  begin(exposureSec: number, isLight: boolean, utcMs: number): void {
    if (this.activity(utcMs) !== 'idle') throw new CameraRefusal('the camera is exposing already');
    this.#taken += 1;
    this.#exposure = {
      startUtcMs: utcMs,
      exposureSec,
      isLight,
      number: this.#taken,
      frame: {
        startX: this.startX,
        startY: this.startY,
        widthPx: this.numX,
        heightPx: this.numY,
        binning: this.binning,
      },
    };
  }
  abort(): void {
    this.#exposure = null;
  }
  activity(utcMs: number): 'idle' | 'exposing' | 'reading' {
    if (!this.#exposure) return 'idle';
    const { startUtcMs, exposureSec } = this.#exposure;
    const endUtcMs = startUtcMs + 1000 * exposureSec;
    return utcMs < endUtcMs ? 'exposing' : utcMs < endUtcMs + READOUT_MS ? 'reading' : 'idle';
  }
  isReady(utcMs: number): boolean {
    return this.#exposure !== null && this.activity(utcMs) === 'idle';
  }
  last(): { readonly startUtcMs: number; readonly exposureSec: number } | null {
    return this.#exposure;
  }
  /** The middle of the last exposure, for whoever works out what fell on the sensor then. */
  lastMiddleUtcMs(): number | null {
    return this.#exposure && this.#exposure.startUtcMs + 500 * this.#exposure.exposureSec;
  }
  /** @param sensor its own dust and glow, with how warm it is */
  picture(light: LightFalling, utcMs: number, sensor?: FrameOrder['sensor']): CameraFrame {
    if (!this.isReady(utcMs) || !this.#exposure) throw new CameraRefusal('there is no picture yet');
    const { exposureSec, isLight, frame, number } = this.#exposure;
    return renderFrame(this.#facts, isLight ? light : { ...light, isOpen: false, flatLightShare: 0 }, {
      exposureSec,
      offset: this.offset,
      gain: this.gain,
      seed: number,
      sensor,
      ...frame,
    });
  }
}
