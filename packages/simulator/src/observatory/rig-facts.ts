// What a simulated rig is built of. It is told once; from then on the rig knows only its own sky and clock.
import type { Site } from '@meridiem/core';

export interface RigFacts {
  readonly site: Site;
  readonly apertureMm: number;
  readonly focalLengthMm: number;
  readonly pixelUm: number;
  readonly widthPx: number;
  readonly heightPx: number;
  readonly readNoiseE: number;
  readonly ePerAdu: number;
  readonly coolingBelowC: number;
  readonly slewDegPerSec: number;
  readonly mountLimitAfterSec: number;
  readonly park: { readonly altitudeDeg: number; readonly azimuthDeg: number };
  /** The roof closes over the telescope wherever it points. */
  readonly roofClears: boolean;
  /** By place of the wheel, from 0: name, and width of the band in nm. */
  readonly filters: readonly { readonly name: string; readonly widthNm: number; readonly focusOffsetSteps: number }[];
  /** Where a light for flats hangs that the telescope must point at; left out where it covers the telescope. */
  readonly flatPanel?: { readonly altitudeDeg: number; readonly azimuthDeg: number };
  readonly hasRotator: boolean;
  /** Sky angle of the picture's upward side at mechanical 0. */
  readonly skyAngleDeg: number;
}

/** A telescope at its park position points here whatever the sky does. */
export const DEFAULT_PARK = { altitudeDeg: 10, azimuthDeg: 180 } as const;
/** No sensor of the simulated observatory is larger. */
export const MOST_PIXELS = 2_000_000;
