// What really happened, for tests to judge by: kept by the observatory itself, never asked of the runner.

export interface TruthEntry {
  readonly utcMs: number;
  readonly what: string;
  /** Something that must never happen. */
  readonly isViolation: boolean;
}

const MOST_ENTRIES = 20_000;

export class Truth {
  readonly #entries: TruthEntry[];
  readonly #open = new Set<string>();
  constructor(entries: readonly TruthEntry[] = []) {
    this.#entries = [...entries];
  }
  note(utcMs: number, what: string): void {
    this.#entries.push({ utcMs, what, isViolation: false });
    if (this.#entries.length > MOST_ENTRIES) this.#entries.shift();
  }
  /** Says a violation once for as long as it lasts. */
  violation(utcMs: number, what: string, isHappening: boolean): void {
    if (!isHappening) return void this.#open.delete(what);
    if (this.#open.has(what)) return;
    this.#open.add(what);
    this.#entries.push({ utcMs, what, isViolation: true });
  }
  all(): readonly TruthEntry[] {
    return this.#entries;
  }
}
