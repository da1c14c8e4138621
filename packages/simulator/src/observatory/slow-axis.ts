// Anything that goes from one number to another at its own pace: a focuser, a rotator, a filter wheel.

export class SlowAxis {
  #from: number;
  #to: number;
  #startUtcMs: number;
  readonly #perSec: number;
  constructor(at: number, utcMs: number, perSec: number) {
    this.#from = at;
    this.#to = at;
    this.#startUtcMs = utcMs;
    this.#perSec = perSec;
  }
  at(utcMs: number): number {
    const distance = this.#to - this.#from;
    const gone = ((utcMs - this.#startUtcMs) / 1000) * this.#perSec;
    return gone >= Math.abs(distance) ? this.#to : this.#from + Math.sign(distance) * Math.max(0, gone);
  }
  isMoving(utcMs: number): boolean {
    return this.at(utcMs) !== this.#to;
  }
  move(to: number, utcMs: number): void {
    this.#from = this.at(utcMs);
    this.#to = to;
    this.#startUtcMs = utcMs;
  }
  halt(utcMs: number): void {
    this.move(this.at(utcMs), utcMs);
  }
}
