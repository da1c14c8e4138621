// Prices found fast: each goes its own way, further while the night asks for the same, half as far when it turns round.
// Source: Riedmiller & Braun 1993, Proc. IEEE Int. Conf. Neural Networks, 586 (resilient propagation), applied to multipliers.
import type { Duals } from './duals.ts';
import { pricesOf } from './duals.ts';
import type { NetPerSec, PricedLanes } from './priced-lane.ts';
import type { SeasonProblem } from '../season/season-problem.ts';

const LONGER = 1.2;
const SHORTER = 0.5;
/** Steps as shares of what an exposure earns at most. */
const FIRST_STEP = 0.1;
const LEAST_STEP = 1e-4;
const MOST_STEP = 0.5;
/** How softly slots are shared, of what a second earns on the mean. */
const SOFT = { first: 0.3, last: 0.01 } as const;

/** Moves the duals to prices at which what is used is about what there is.
 * @returns the lowest bound met (proven only if the pricer proves); the duals are left where it was met */
export function settlePrices(
  { goals }: SeasonProblem,
  price: (net: NetPerSec, softness?: number) => PricedLanes,
  duals: Duals,
  rounds: number,
): number {
  const { credit } = pricesOf(duals).prices;
  const earned = Float64Array.from(goals, ({ value }, g) => value + credit[g] || 1e-9);
  const step = earned.map((value) => FIRST_STEP * value);
  const sign = new Int8Array(goals.length);
  const shareStep = duals.terms.map(({ share }) => share.map(() => FIRST_STEP));
  const shareSign = duals.terms.map(({ share }) => new Int8Array(share.length));
  const net = new Float64Array(goals.length);
  const perSec = goals.reduce((sum, { cycleSec }, g) => sum + earned[g] / cycleSec / goals.length, 0);
  let best = Infinity;
  let kept = { count: duals.count.slice(), shares: duals.terms.map(({ share }) => share.slice()) };
  for (let round = 0; round < rounds; round++) {
    const { prices, beside } = pricesOf(duals);
    goals.forEach(({ cycleSec }, g) => (net[g] = (prices.credit[g] - prices.count[g]) / cycleSec));
    const softness = SOFT.first * (SOFT.last / SOFT.first) ** (round / rounds) * perSec;
    const { total, usage } = price(net, softness);
    if (total + beside < best) {
      best = total + beside;
      kept = { count: duals.count.slice(), shares: duals.terms.map(({ share }) => share.slice()) };
    }
    for (let g = 0; g < goals.length; g++) {
      const wants = Math.sign(usage[g] - duals.most[g]);
      step[g] = stepAfter(step[g], wants * sign[g], earned[g]);
      sign[g] = wants;
      duals.count[g] = Math.max(0, duals.count[g] + wants * step[g]);
    }
    duals.terms.forEach(({ goals: own, ahead, whole, share }, t) => {
      const fraction = own.map((g, i) => ahead[i] + usage[g] / whole[i]);
      const mean = fraction.reduce((sum, f, i) => sum + f * share[i], 0);
      let sum = 0;
      for (let i = 0; i < own.length; i++) {
        const wants = Math.sign(mean - fraction[i]);
        shareStep[t][i] = stepAfter(shareStep[t][i], wants * shareSign[t][i], 1);
        shareSign[t][i] = wants;
        share[i] *= Math.exp(wants * shareStep[t][i]);
        sum += share[i];
      }
      for (let i = 0; i < own.length; i++) share[i] /= sum;
    });
  }
  duals.count.set(kept.count);
  duals.terms.forEach(({ share }, t) => share.set(kept.shares[t]));
  return best;
}

function stepAfter(step: number, agreement: number, unit: number): number {
  if (agreement > 0) return Math.min(MOST_STEP * unit, step * LONGER);
  return agreement < 0 ? Math.max(LEAST_STEP * unit, step * SHORTER) : step;
}
