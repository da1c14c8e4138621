// Circumstances of one target and filter through a sampled night, worked out only as far as a rule asks.
import type { FilterSky, SkyLight } from '../exposure/filter-sky.ts';
import { moonBrighteningMag, moonlightRatio, twilightRatio } from '../exposure/filter-sky.ts';
import type { NightTable, TargetSamples } from '../sky/night-table.ts';
import { momentOfSample } from '../sky/night-table.ts';
import type { UtcMs } from '../units.ts';
import type { Circumstances } from './obstacles.ts';
import type { SampledCircumstances } from './windows.ts';

export interface SampledPlace {
  readonly table: NightTable;
  readonly target: TargetSamples;
  readonly filter: FilterSky;
  readonly zenithMagV: number;
  /** Signal rate over the target's own best. */
  readonly rateShareAt: (altitudeDeg: number, light: SkyLight) => number;
  /** Moonlight at the samples, shared by all filters of a place; NaN where nobody has asked yet. */
  readonly moonRatioV: Float64Array;
  /** Rate shares at the samples, where they are known already. */
  readonly rateShare?: Float64Array;
}

/** Places are linear between samples; light is computed from the places, for it leaps where the moon rises. */
export function sampledCircumstances(place: SampledPlace): SampledCircumstances {
  const moving = new MovingCircumstances(place);
  return { length: place.table.length, at: (sample) => moving.movedTo(sample) };
}

/** One object moved from sample to sample: what it says holds until it is moved on. */
class MovingCircumstances implements Circumstances {
  readonly #place: SampledPlace;
  #before = 0;
  #share = 0;
  #moonRatioV: number | null = null;

  constructor(place: SampledPlace) {
    this.#place = place;
  }

  movedTo(sample: number): this {
    this.#before = Math.min(this.#place.table.length - 2, Math.floor(sample));
    this.#share = sample - this.#before;
    this.#moonRatioV = null;
    return this;
  }

  get utcMs(): UtcMs {
    return momentOfSample(this.#place.table, this.#before + this.#share);
  }
  get altitudeDeg(): number {
    return this.#between(this.#place.target.altitudeDeg);
  }
  get azimuthDeg(): number {
    return this.#angleBetween(this.#place.target.azimuthDeg);
  }
  get hourAngleDeg(): number {
    return this.#angleBetween(this.#place.target.hourAngleDeg);
  }
  get sunAltitudeDeg(): number {
    return this.#between(this.#place.table.sunAltitudeDeg);
  }
  get moonAltitudeDeg(): number {
    return this.#between(this.#place.table.moonAltitudeDeg);
  }
  get moonSeparationDeg(): number {
    return this.#between(this.#place.target.moonSeparationDeg);
  }
  get moonBrighteningMag(): number {
    return moonBrighteningMag(this.#place.filter, Math.max(1, this.altitudeDeg), this.#moonlight());
  }
  get rateShare(): number {
    if (this.#share === 0 && this.#place.rateShare) return this.#place.rateShare[this.#before];
    const twilightRatioV = twilightRatio(this.sunAltitudeDeg, this.#place.zenithMagV);
    return this.#place.rateShareAt(this.altitudeDeg, { moonRatioV: this.#moonlight(), twilightRatioV });
  }

  #moonlight(): number {
    const { moonRatioV } = this.#place;
    if (this.#share !== 0) return (this.#moonRatioV ??= this.#moonlightHere());
    if (Number.isNaN(moonRatioV[this.#before])) moonRatioV[this.#before] = this.#moonlightHere();
    return moonRatioV[this.#before];
  }

  #moonlightHere(): number {
    const { altitudeDeg, moonAltitudeDeg } = this;
    if (!(altitudeDeg > 0)) return 0;
    return moonlightRatio({
      phaseAngleDeg: this.#between(this.#place.table.moonPhaseAngleDeg),
      moonAltitudeDeg,
      altitudeDeg,
      separationDeg: this.moonSeparationDeg,
      zenithMagV: this.#place.zenithMagV,
    });
  }

  #between(values: Float64Array): number {
    const value = values[this.#before];
    return this.#share === 0 ? value : value + this.#share * (values[this.#before + 1] - value);
  }

  /** Across the seam of an angle the nearer sample stands. */
  #angleBetween(values: Float64Array): number {
    const [value, next] = [values[this.#before], values[this.#before + 1]];
    if (Math.abs(next - value) > 180) return this.#share < 0.5 ? value : next;
    return value + this.#share * (next - value);
  }
}
