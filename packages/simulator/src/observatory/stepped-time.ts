// A clock that runs while somebody waits by it, and stands still while devices and their minder work: at six hundred times
// the speed a call over the network would else cost seconds.
import type { ObservatoryClock } from './clock.ts';

/** Nobody has waited for so long in real time: the minder is gone, and time goes on by itself. */
const ABANDONED_MS = 3000;

export class SteppedTime {
  readonly #clock: ObservatoryClock;
  #waiting = 0;
  #release: (() => void) | null = null;
  #abandoned: ReturnType<typeof setTimeout> | undefined;
  constructor(clock: ObservatoryClock) {
    this.#clock = clock;
  }
  async run(sec: number): Promise<void> {
    clearTimeout(this.#abandoned);
    this.#go();
    this.#waiting += 1;
    await new Promise((resolve) => setTimeout(resolve, (1000 * sec) / this.#clock.speed));
    this.#waiting -= 1;
    if (this.#waiting > 0) return;
    this.#release = this.#clock.hold();
    this.#abandoned = setTimeout(() => this.#go(), ABANDONED_MS).unref();
  }
  #go(): void {
    this.#release?.();
    this.#release = null;
  }
}
