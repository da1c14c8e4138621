// Nights lived through in a world of their own, looked at afterwards. With MERIDIEM_LONG=1 fifty of them.
import { describe, expect, it } from '@jest/globals';
import { nightInstance } from '../../../../../bench/instances.ts';
import type { Lived } from '../../../test/lived-night.ts';
import { handsOf, livedNight, randomFate, WITHOUT_TROUBLE } from '../../../test/lived-night.ts';
import { seededRandom } from '../../random.ts';
import { checkNight } from '../checker/index.ts';
import { bestInHindsight, GAP_CAUSES, reviewNight } from './review-night.ts';

const IS_LONG = process.env.MERIDIEM_LONG === '1';
const NIGHTS = IS_LONG ? 50 : 2;
const OPTIONS = IS_LONG ? undefined : { seeds: [1], iterations: 1500 };
/** Of the gap, where the gap is more than a few minutes. */
const MOST_REMAINDER = 0.05;
const LEAST_GAP_HOURS = 0.5;
const NIGHT_SEC = 36_000;

const requestOf = (seed: number) => nightInstance({ seed, goals: 24 + (seed % 16), night: (seed * 13) % 365 });

function lived(seed: number): Lived {
  const random = seededRandom(seed);
  const request = handsOf(requestOf(seed), random);
  return livedNight(request, randomFate(random, NIGHT_SEC), seed);
}

describe('a night reviewed', () => {
  it(`explains the gap of ${NIGHTS} nights of bad weather, faults, hands and slow steps but for a twentieth`, () => {
    const shares: number[] = [];
    let [gaps, remainders, seed] = [0, 0, 0];
    while (shares.length < NIGHTS) {
      const night = lived(++seed);
      const review = reviewNight(night, OPTIONS);
      if (!review || review.bestHours - review.takenHours < LEAST_GAP_HOURS) continue;
      const gap = review.bestHours - review.takenHours;
      expect(GAP_CAUSES.reduce((sum, cause) => sum + review.gapHours[cause], 0)).toBeCloseTo(gap, 9);
      gaps += gap;
      remainders += Math.abs(review.gapHours.remainder);
      shares.push(Math.abs(review.gapHours.remainder) / gap);
      const best = bestInHindsight(night, OPTIONS)!;
      expect(checkNight(best.problem, best.placements).violations).toEqual([]);
    }
    const within = shares.filter((share) => share <= MOST_REMAINDER).length;
    if (IS_LONG) console.log(`remainder: ${((100 * remainders) / gaps).toFixed(2)} % of all gaps; ${within} of ${NIGHTS} nights within 5 %: ${shares.map((share) => (100 * share).toFixed(1)).join(' ')}`); // prettier-ignore
    expect(remainders / gaps).toBeLessThan(MOST_REMAINDER);
    expect(within).toBe(NIGHTS);
  }, 1_800_000);

  it('finds nothing to blame where nothing went wrong', () => {
    const night = livedNight(requestOf(4), WITHOUT_TROUBLE, 4);
    const { gapHours, overheadFactor, lostHours } = reviewNight(night, OPTIONS)!;
    for (const cause of ['weather', 'hands', 'faults', 'rejected'] as const) expect(Math.abs(gapHours[cause])).toBeLessThan(0.1); // prettier-ignore
    expect(lostHours).toEqual({ weather: 0, fault: 0, hand: 0 });
    expect(overheadFactor).toBeGreaterThan(0.8);
    expect(overheadFactor).toBeLessThan(1.2);
  }, 120_000);

  it('blames each cause for what it alone has done', () => {
    const request = requestOf(4);
    const gapOf = (change: Partial<typeof WITHOUT_TROUBLE>): Record<string, number> =>
      reviewNight(livedNight(request, { ...WITHOUT_TROUBLE, ...change }, 4), OPTIONS)!.gapHours;
    // Even an untroubled night has a gap of its own: an evening's plan is not the best in hindsight.
    const untroubled = gapOf({});
    const largest = (gap: Record<string, number>): string =>
      Object.entries(gap).toSorted(
        ([a, aHours], [b, bHours]) => bHours - untroubled[b] - (aHours - untroubled[a]),
      )[0][0];
    expect(largest(gapOf({ slowness: 2.5 }))).toBe('overhead');
    expect(largest(gapOf({ stoppedAtSec: 12_000 }))).toBe('hands');
    expect(largest(gapOf({ failing: 0.4 }))).toBe('faults');
  }, 120_000);

  it('counts exposures that were rejected afterwards as such', () => {
    const night = livedNight(requestOf(4), WITHOUT_TROUBLE, 4);
    const taken = night.record.taken.map((one, i) => ({ ...one, isRejected: i % 3 === 0 }));
    const all = reviewNight(night, OPTIONS)!;
    const kept = reviewNight({ ...night, record: { ...night.record, taken } }, OPTIONS)!;
    expect(kept.gapHours.rejected).toBeGreaterThan(0.3);
    expect(kept.takenHours).toBeCloseTo(all.takenHours - kept.gapHours.rejected, 9);
    expect(kept.gapHours.weather).toBe(all.gapHours.weather);
  }, 120_000);

  it('is given up where it is told to', () => {
    const shares: number[] = [];
    const review = reviewNight(lived(7), OPTIONS, (share) => shares.push(share) === 2);
    expect(review).toBeNull();
    expect(shares).toHaveLength(2);
  }, 120_000);
});
