// A composition framed anew: which panel becomes which, and what becomes of the credit of exposures already taken.
import { COVERAGE_ASK, COVERAGE_SURE } from '../ledger/matching.ts';
import type { SkyPosition } from '../sky/site.ts';
import type { SkyField } from './coverage.ts';
import { coverageOf } from './coverage.ts';

export interface Pointing {
  readonly centre: SkyPosition;
  readonly positionAngleDeg: number;
}

interface Sides {
  readonly widthDeg: number;
  readonly heightDeg: number;
}

/** Which existing panel each new pointing carries on, by the most shared sky first; a panel carries on in one pointing at most.
 * @returns for each new pointing the index of an existing panel, or null for a new one */
export function carriedOn(
  existing: readonly (Pointing | null)[],
  wanted: readonly Pointing[],
  sides: Sides,
): (number | null)[] {
  const pairs = wanted.flatMap((pointing, to) =>
    existing.flatMap((panel, from) => {
      const shared = panel ? coverageOf(fieldOfPointing(pointing, sides), fieldOfPointing(panel, sides)) : 0;
      return shared > 0 ? [{ from, to, shared }] : [];
    }),
  );
  const carried: (number | null)[] = wanted.map(() => null);
  const taken = new Set<number>();
  for (const { from, to } of pairs.sort((a, b) => b.shared - a.shared || a.from - b.from || a.to - b.to)) {
    if (taken.has(from) || carried[to] !== null) continue;
    carried[to] = from;
    taken.add(from);
  }
  // Panels that share nothing carry on where places are left: a composition moved elsewhere keeps its panels and goals.
  const left = existing.map((_, i) => i).filter((i) => !taken.has(i));
  return carried.map((from) => from ?? left.shift() ?? null);
}

/** keep: covers its panel; ask: covers it in part and a person decides; lose: stays in the ledger without credit. */
export type CreditFate = 'keep' | 'ask' | 'lose';

export interface CreditOutcome {
  readonly fate: CreditFate;
  /** Index of the wanted pointing it covers best; null where it covers none. */
  readonly panel: number | null;
  /** Share of that panel's field, [0, 1]. */
  readonly coverage: number;
}

/** What happens to an exposure's credit.
 * @param taken where it looked, with the field of the rig that took it */
export function creditAfter(taken: SkyField, wanted: readonly Pointing[], sides: Sides): CreditOutcome {
  let best: { panel: number | null; coverage: number } = { panel: null, coverage: 0 };
  wanted.forEach((pointing, panel) => {
    const coverage = coverageOf(fieldOfPointing(pointing, sides), taken);
    if (coverage > best.coverage + 1e-9) best = { panel, coverage };
  });
  const fate = best.coverage >= COVERAGE_SURE ? 'keep' : best.coverage >= COVERAGE_ASK ? 'ask' : 'lose';
  return { fate, ...(fate === 'lose' ? { panel: null, coverage: best.coverage } : best) };
}

const fieldOfPointing = ({ centre, positionAngleDeg }: Pointing, sides: Sides): SkyField => ({
  centre,
  positionAngleDeg,
  ...sides,
});
