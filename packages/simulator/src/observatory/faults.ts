// Things that go wrong on demand, each until a moment of observatory time.

export const FAULTS = [
  'unsafe',
  'cloud',
  'wind',
  'guide star lost',
  'solve fails',
  'focuser stuck',
  'rotator stuck',
  'wheel jam',
  'roof stuck',
  'mount stuck',
  'camera lost',
  'slow answers',
  'network cut',
  'power cut',
] as const;
export type Fault = (typeof FAULTS)[number];

export class Faults {
  readonly #until = new Map<Fault, number>();
  set(fault: Fault, untilUtcMs: number): void {
    this.#until.set(fault, untilUtcMs);
  }
  clear(): void {
    this.#until.clear();
  }
  has(fault: Fault, nowUtcMs: number): boolean {
    return (this.#until.get(fault) ?? Number.NEGATIVE_INFINITY) > nowUtcMs;
  }
}
