// A clock that goes on only as far as somebody waits by it, and stands still while devices and their minder work: at six hundred
// times the speed a call over the network, or a busy machine, would else cost minutes.
import type { ObservatoryClock } from './clock.ts';

/** Nobody has waited for so long in real time: the minder is gone, and time goes on by itself. */
const ABANDONED_MS = 3000;

interface Waiter {
  readonly untilUtcMs: number;
  /** It is woken when its time has come, and lets none pass by itself. */
  readonly isBeside: boolean;
  readonly resolve: () => void;
}

export class SteppedTime {
  readonly #clock: ObservatoryClock;
  #waiters: Waiter[] = [];
  #release: (() => void) | null = null;
  #timer: ReturnType<typeof setTimeout> | undefined;
  #abandoned: ReturnType<typeof setTimeout> | undefined;
  constructor(clock: ObservatoryClock) {
    this.#clock = clock;
  }
  /** Resolves when so much observatory time has passed, at the clock's speed at the fastest.
   * @param gone settles when whoever waits is no longer there */
  run(sec: number, { isBeside = false, gone }: { isBeside?: boolean; gone?: Promise<void> } = {}): Promise<void> {
    clearTimeout(this.#abandoned);
    this.#release ??= this.#clock.hold();
    const untilUtcMs = this.#clock.nowUtcMs() + 1000 * sec;
    return new Promise((resolve) => {
      const waiter = { untilUtcMs, isBeside, resolve };
      this.#waiters.push(waiter);
      void gone?.then(() => this.#forget(waiter));
      this.#schedule();
    });
  }
  /** Time stands until somebody waits by it, or nobody has for too long. */
  stand(): void {
    this.#release ??= this.#clock.hold();
    this.#schedule();
  }
  /** Nobody waits any longer: the observatory is being closed. */
  end(): void {
    for (const waiter of this.#waiters) this.#forget(waiter);
  }
  #forget(waiter: Waiter): void {
    if (!this.#waiters.includes(waiter)) return;
    this.#waiters = this.#waiters.filter((one) => one !== waiter);
    waiter.resolve();
    this.#schedule();
  }
  /** The next to be woken, at its own moment; while nobody but those beside waits, time stands. */
  #schedule(): void {
    clearTimeout(this.#timer);
    clearTimeout(this.#abandoned);
    if (this.#waiters.length === 0) this.#abandoned = setTimeout(() => this.#goOn(), ABANDONED_MS).unref();
    if (!this.#waiters.some(({ isBeside }) => !isBeside)) return;
    const next = Math.min(...this.#waiters.map(({ untilUtcMs }) => untilUtcMs));
    const leftMs = Math.max(0, next - this.#clock.nowUtcMs());
    this.#timer = setTimeout(() => this.#wake(next), leftMs / this.#clock.speed);
  }
  #wake(utcMs: number): void {
    this.#clock.advance(Math.max(0, utcMs - this.#clock.nowUtcMs()));
    const due = this.#waiters.filter(({ untilUtcMs }) => untilUtcMs <= utcMs);
    this.#waiters = this.#waiters.filter((waiter) => !due.includes(waiter));
    due.forEach(({ resolve }) => resolve());
    this.#schedule();
  }
  #goOn(): void {
    this.#release?.();
    this.#release = null;
  }
}
