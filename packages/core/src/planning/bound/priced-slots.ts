// A season relaxed further and priced fast: in each slot whichever goal is worth most, travel for nothing. It proves nothing; it finds prices to begin with.
import type { SeasonProblem } from '../season/season-problem.ts';
import type { NetPerSec, PricedLanes } from './priced-lane.ts';

/** Share of a night that travel leaves. */
const EXPOSING = 0.985;

interface SlotSky {
  readonly lanes: number;
  readonly odds: number;
  readonly slots: number;
  /** Goals with something open, and value per second of each: `[slot · goals + goal]`, 0 where closed. */
  readonly goals: Int32Array;
  readonly worth: Float32Array;
}

/** @returns a pricer; its second argument is how much worse than the best, a second, a goal may be and still get a share of a slot: a soft choice moves evenly with the prices */
export function slotPricer(problem: SeasonProblem): (net: NetPerSec, softness?: number) => PricedLanes {
  const skies = skiesOf(problem);
  const usage = new Float64Array(problem.goals.length);
  const perSlotSec = problem.slotSec * EXPOSING;
  const densities = new Float64Array(problem.goals.length);
  return (net, softness = 0) => {
    usage.fill(0);
    let total = 0;
    for (const { goals, worth, slots, lanes, odds } of skies) {
      const own = Float64Array.from(goals, (g) => net[g]);
      for (let slot = 0, at = 0; slot < slots; slot++) {
        let [best, top] = [-1, 0];
        for (let i = 0; i < own.length; i++, at++) {
          const light = worth[at];
          const density = light > 0 ? light + own[i] : -1;
          densities[i] = density;
          if (density > top) {
            top = density;
            best = i;
          }
        }
        if (softness > 0) {
          total += lanes * odds * perSlotSec * share(densities, own.length, top, softness);
          for (let i = 0; i < own.length; i++)
            if (densities[i] > 0)
              usage[goals[i]] += (lanes * odds * perSlotSec * densities[i]) / problem.goals[goals[i]].cycleSec;
          continue;
        }
        if (best < 0) continue;
        total += lanes * odds * top * perSlotSec;
        usage[goals[best]] += (lanes * odds * perSlotSec) / problem.goals[goals[best]].cycleSec;
      }
    }
    return { total, usage };
  };
}

/** Turns densities into shares of a slot, doing nothing among the choices.
 * @returns the soft maximum */
function share(densities: Float64Array, count: number, top: number, softness: number): number {
  let sum = Math.exp(-top / softness);
  for (let i = 0; i < count; i++) {
    const below = (densities[i] - top) / softness;
    densities[i] = densities[i] > 0 && below > -8 ? Math.exp(below) : 0;
    sum += densities[i];
  }
  for (let i = 0; i < count; i++) densities[i] /= sum;
  return top + softness * Math.log(sum);
}

function skiesOf({ goals, lanes }: SeasonProblem): SlotSky[] {
  const skies = new Map<Float32Array, SlotSky>();
  for (const { rates, slots, odds } of lanes) {
    const known = skies.get(rates);
    const own = known?.goals ?? Int32Array.from(goals.flatMap(({ row, count }, g) => (count > 0 && isOpen(rates, row, slots) ? [g] : []))); // prettier-ignore
    const worth = known?.worth ?? new Float32Array(slots * own.length);
    if (!known)
      own.forEach((g, i) => {
        const { row, value, cycleSec } = goals[g];
        for (let slot = 0; slot < slots; slot++)
          worth[slot * own.length + i] = (value / cycleSec) * rates[row * slots + slot];
      });
    skies.set(rates, { goals: own, worth, slots, odds, lanes: (known?.lanes ?? 0) + 1 });
  }
  return [...skies.values()];
}

function isOpen(rates: Float32Array, row: number, slots: number): boolean {
  for (let slot = 0; slot < slots; slot++) if (rates[row * slots + slot] > 0) return true;
  return false;
}
