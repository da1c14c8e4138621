// What a rig spends its time on besides exposing: one model prices goals and plans, and the simulated night draws around it.
import { angleBetweenDeg, unitVector } from '../sky/frame-of-date.ts';
import type { SkyPosition } from '../sky/site.ts';

/** A rig's times, each a plain number that someone measured or estimated. */
export interface StepCosts {
  readonly slewDegPerSec: number;
  readonly slewSettleSec: number;
  readonly centreSec: number;
  readonly guidingStartSec: number;
  readonly filterChangeSec: number;
  readonly autofocusSec: number;
  /** Minutes between periodic autofocus runs; 0 = never. */
  readonly autofocusEveryMin: number;
  readonly ditherSec: number;
  readonly downloadSec: number;
  readonly flipSec: number;
}

export const DEFAULT_STEP_COSTS: StepCosts = {
  slewDegPerSec: 3,
  slewSettleSec: 12,
  centreSec: 45,
  guidingStartSec: 20,
  filterChangeSec: 8,
  autofocusSec: 150,
  autofocusEveryMin: 60,
  ditherSec: 10,
  downloadSec: 4,
  flipSec: 240,
};

/** What one exposure of a recipe asks for. */
export interface ExposureSettings {
  readonly exposureSec: number;
  readonly pauseSec: number;
  /** Exposures between dithers; 0 = no dither. */
  readonly ditherEvery: number;
  /** Share of the sensor that is read, which the download takes its time for; all of it where left out. */
  readonly shareRead?: number;
}

/** Time between the starts of two exposures of a run: exposure, pause, download, and the due shares of dither and autofocus. */
export function exposureCycleSec(costs: StepCosts, settings: ExposureSettings): number {
  const dither = settings.ditherEvery > 0 ? costs.ditherSec / settings.ditherEvery : 0;
  const downloadSec = costs.downloadSec * (settings.shareRead ?? 1);
  const busy = settings.exposureSec + settings.pauseSec + downloadSec + dither;
  const autofocusShare = costs.autofocusEveryMin > 0 ? costs.autofocusSec / (costs.autofocusEveryMin * 60) : 0;
  return busy * (1 + autofocusShare);
}

/** From the last download on one panel to the first exposure on another: slew, settle, centre, guiding. */
export function panelChangeSec(costs: StepCosts, from: SkyPosition | null, to: SkyPosition): number {
  const distanceDeg = from === null ? 60 : angleBetweenDeg(unitVector(from), unitVector(to));
  return distanceDeg / costs.slewDegPerSec + costs.slewSettleSec + costs.centreSec + costs.guidingStartSec;
}

/** From one filter to another on the same panel: the wheel, and a refocus unless both focus offsets are known. */
export const filterChangeSec = (costs: StepCosts, offsetsKnown: boolean): number =>
  costs.filterChangeSec + (offsetsKnown ? 0 : costs.autofocusSec);
