// Collects deviations of one quantity and says whether they keep their limits.
import { medianOf, quantileOf } from '../src/units.ts';

export interface Verdict {
  readonly file: string;
  readonly quantity: string;
  readonly unit: string;
  readonly rows: number;
  readonly median: number;
  readonly p95: number;
  readonly worst: number;
  readonly limit: number;
  readonly medianLimit: number | null;
  readonly leftOut: number;
  readonly leftOutRule: string;
  readonly passed: boolean;
}

export interface TallyOptions {
  readonly file: string;
  readonly quantity: string;
  readonly unit: string;
  readonly limit: number;
  readonly medianLimit?: number;
  readonly leftOutRule?: string;
}

/** Deviations of one quantity against one limit. A NaN counts as infinitely wrong. */
export class Tally {
  readonly #options: TallyOptions;
  readonly #deviations: number[] = [];
  #leftOut = 0;

  constructor(options: TallyOptions) {
    this.#options = options;
  }

  add(deviation: number): void {
    this.#deviations.push(Number.isNaN(deviation) ? Infinity : Math.abs(deviation));
  }

  leaveOut(): void {
    this.#leftOut += 1;
  }

  verdict(): Verdict {
    const { limit, medianLimit = null, leftOutRule = '', ...names } = this.#options;
    const worst = Math.max(0, ...this.#deviations);
    const median = medianOf(this.#deviations);
    const passed = this.#deviations.length > 0 && worst <= limit && (medianLimit === null || median <= medianLimit);
    const counted = { rows: this.#deviations.length, median, p95: quantileOf(this.#deviations, 0.95), worst };
    return { ...names, ...counted, limit, medianLimit, leftOut: this.#leftOut, leftOutRule, passed };
  }
}
