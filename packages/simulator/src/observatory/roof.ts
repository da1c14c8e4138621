// The simulated roof, with an interlock of its own: it does not move over a telescope that is in its way, whoever asks.

const TRAVEL_MS = 40_000;

export class RoofRefusal extends Error {}

export class SimulatedRoof {
  /** 0 closed, 1 open, at `#atUtcMs`. */
  #share = 0;
  #atUtcMs: number;
  #direction: -1 | 0 | 1 = 0;
  constructor(utcMs: number, openShare = 0) {
    this.#atUtcMs = utcMs;
    this.#share = openShare;
  }
  openShare(utcMs: number): number {
    const moved = this.#share + (this.#direction * (utcMs - this.#atUtcMs)) / TRAVEL_MS;
    return Math.max(0, Math.min(1, moved));
  }
  state(utcMs: number): 'open' | 'closed' | 'opening' | 'closing' | 'error' {
    const share = this.openShare(utcMs);
    if (this.#direction > 0) return share >= 1 ? 'open' : 'opening';
    if (this.#direction < 0) return share <= 0 ? 'closed' : 'closing';
    return share >= 1 ? 'open' : share <= 0 ? 'closed' : 'error';
  }
  /** @param isClear whether nothing is in the way of the roof */
  move(direction: -1 | 1, utcMs: number, { isClear, isStuck }: { isClear: boolean; isStuck: boolean }): void {
    if (!isClear) throw new RoofRefusal('the telescope is in the way of the roof: it is not parked');
    this.#rest(utcMs);
    if (!isStuck) this.#direction = direction;
  }
  /** Stops where it is. */
  halt(utcMs: number): void {
    this.#rest(utcMs);
  }
  #rest(utcMs: number): void {
    this.#share = this.openShare(utcMs);
    this.#atUtcMs = utcMs;
    this.#direction = 0;
  }
}
