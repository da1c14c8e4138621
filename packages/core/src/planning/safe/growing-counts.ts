// Completion and balance as exposures are added one at a time: what each brings.
import type { NightProblem } from '../problem.ts';

interface Balance {
  readonly weight: number;
  readonly members: readonly { readonly goal: number; readonly done: number; readonly wanted: number }[];
  readonly before: number;
  now: number;
}

interface Completion {
  readonly bonus: number;
  /** Goals of the project with exposures left to place. */
  readonly goals: number;
  left: number;
}

/** Counts of one plan as it is taken; the sum of what `add` returns is what `Collective` gives for all of them. */
export class GrowingCounts {
  readonly #placed: Int32Array;
  readonly #wanted: Int32Array;
  readonly #balancesOf: readonly (readonly Balance[])[];
  readonly #completionOf: readonly (Completion | null)[];
  readonly #balances: readonly Balance[];
  readonly #completions: readonly Completion[];

  constructor({ goals, projectBonus, balances }: NightProblem) {
    this.#placed = new Int32Array(goals.length);
    this.#wanted = Int32Array.from(goals, ({ count }) => count);
    this.#balances = balances
      .filter(({ members }) => members.length > 0)
      .map(({ weight, members }) => {
        const before = Math.min(1, ...members.map(({ done, wanted }) => done / wanted));
        return { weight, members, before, now: before };
      });
    this.#balancesOf = goals.map((_, g) =>
      this.#balances.filter(({ members }) => members.some(({ goal }) => goal === g)),
    );
    const completions = projectBonus.map((bonus, project): Completion => {
      const open = goals.filter((goal) => goal.project === project && goal.count > 0).length;
      return { bonus: goals.some((goal) => goal.project === project) ? bonus : 0, goals: open, left: open };
    });
    this.#completions = completions.filter(({ bonus, goals: open }) => bonus > 0 && open > 0);
    this.#completionOf = goals.map(({ project }) => (completions[project].bonus > 0 ? completions[project] : null));
  }

  clear(): void {
    this.#placed.fill(0);
    for (const balance of this.#balances) balance.now = balance.before;
    for (const completion of this.#completions) completion.left = completion.goals;
  }

  /** One exposure more of a goal.
   * @returns balance and completion that it brings */
  add(goal: number): number {
    const placed = ++this.#placed[goal];
    let worth = 0;
    for (const balance of this.#balancesOf[goal]) {
      const now = this.#leastOf(balance);
      worth += balance.weight * (now - balance.now);
      balance.now = now;
    }
    const completion = this.#completionOf[goal];
    if (completion && placed === this.#wanted[goal] && --completion.left === 0) worth += completion.bonus;
    return worth;
  }

  #leastOf({ members }: Balance): number {
    let least = 1;
    for (const { goal, done, wanted } of members) least = Math.min(least, (done + this.#placed[goal]) / wanted);
    return least;
  }
}
