// Fairness in a season: who is behind gets more, what it costs is measured without it, and nothing else changes.
import { describe, expect, it } from '@jest/globals';
import { nightInstance } from '../../../../../bench/instances.ts';
import { nightDatePlus, observingNight } from '../../time/nights.ts';
import { checkSeason } from '../checker/index.ts';
import type { MemberMultiplier, SeasonShares } from './fair-season.ts';
import { chargedAhead, fairSeason, weightedSeason } from './fair-season.ts';
import { planSeason } from './plan-season.ts';
import { seasonOfNights } from './season-of-nights.ts';
import { valueOfSeason } from './season-value.ts';

const request = nightInstance({ seed: 8, goals: 40, night: 40 });
const projectIds = request.projects.map(({ id }) => id);
// More than six nights can do, of two members: every other project is the other one's.
const memberOf = Object.fromEntries(projectIds.map((id, i) => [id, i % 2 === 0 ? 'ana' : 'ben']));
const season = seasonOfNights({
  rigs: [{ rigId: 'rig', request, acceptance: {} }],
  nights: Array.from({ length: 6 }, (_, i) => ({
    night: observingNight(nightDatePlus(request.night.nightDate, i), request.timeZone),
    odds: 0.6,
  })),
});

interface Before {
  readonly fairness?: number;
  readonly charged?: Readonly<Record<string, number>>;
  readonly share?: Readonly<Record<string, number>>;
}
const shares = ({ fairness = 1, charged = {}, share = {} }: Before = {}): SeasonShares => ({
  fairness,
  memberOf,
  weights: { dark: 1, bright: 0.5 },
  standings: ['ana', 'ben'].flatMap((memberId) =>
    (['dark', 'bright'] as const).map((skyClass) => ({
      memberId,
      rigId: 'rig',
      skyClass,
      share: share[memberId] ?? 0.5,
      entitledHours: 10,
      chargedHours: charged[memberId] ?? 10,
    })),
  ),
});
const options = { iterations: 60_000, seed: 1 };
const chargedTo = (given: SeasonShares, plan: Parameters<typeof chargedAhead>[2], memberId: string): number =>
  [...chargedAhead(season, given, plan)].reduce((sum, [key, hours]) => sum + (key.startsWith(memberId) ? hours : 0), 0);
const multiplierOf = (found: readonly MemberMultiplier[], memberId: string, skyClass = 'dark'): number =>
  found.find((one) => one.memberId === memberId && one.skyClass === skyClass)!.multiplier;

describe('a season with shares', () => {
  it('breaks no rule, and its value is its problem’s own', () => {
    const { plan, value, problem } = fairSeason(season, shares(), options);
    const checked = checkSeason(problem, plan);
    expect(checked.violations).toEqual([]);
    expect(checked.value).toBeCloseTo(value, 5);
    expect(checkSeason(season.problem, plan).violations).toEqual([]);
  });

  it('counts the hours of whoever is behind for more, and gives them more', () => {
    const behind = shares({ charged: { ana: 0, ben: 40 } });
    const { plan, multipliers } = fairSeason(season, behind, options);
    expect(multiplierOf(multipliers, 'ana')).toBeGreaterThan(1);
    expect(multiplierOf(multipliers, 'ben')).toBeLessThan(1);
    const even = planSeason(season.problem, { ...options });
    expect(chargedTo(behind, plan, 'ana')).toBeGreaterThan(chargedTo(behind, even.plan, 'ana'));
  });

  it('gives more to whoever has the larger share', () => {
    const of = (share: Before['share']): number => {
      const given = shares({ share });
      return chargedTo(given, fairSeason(season, given, options).plan, 'ben');
    };
    expect(of({ ana: 0.1, ben: 0.9 })).toBeGreaterThan(of({ ana: 0.9, ben: 0.1 }));
  });

  it('changes no weight where fairness counts nothing', () => {
    const { multipliers } = fairSeason(season, shares({ fairness: 0, charged: { ana: 0, ben: 40 } }), options);
    for (const { multiplier } of multipliers) expect(multiplier).toBe(1);
  });

  it('costs nothing or a share of the value, which is that of the season without fairness', () => {
    const given = shares({ charged: { ana: 0, ben: 60 } });
    const { plan, price } = fairSeason(season, given, options);
    const unfair = planSeason(season.problem, { iterations: Math.round(0.35 * options.iterations), seed: 1 });
    expect(price).toBeGreaterThanOrEqual(0);
    expect(price).toBeCloseTo(Math.max(0, 1 - valueOfSeason(season.problem, plan) / unfair.value), 9);
  });

  it('is the same season for the same seed', () => {
    const of = () => JSON.stringify(fairSeason(season, shares(), { iterations: 9000, seed: 4 }).plan);
    expect(of()).toBe(of());
  });

  it('stops in each of its parts when told to, and tells a share that only grows', () => {
    const told: number[] = [];
    fairSeason(season, shares(), { iterations: 40_000, seed: 1, onProgress: (share) => told.push(share) < 0 });
    expect(told.every((share, i) => i === 0 || share >= told[i - 1] - 1e-9)).toBe(true);
    expect(told[0]).toBeLessThan(0.05);
    expect(told.at(-1)).toBeLessThanOrEqual(1);
  });
});

describe('a season weighed by multipliers', () => {
  const only = (memberId: string, skyClass: 'dark' | 'bright', multiplier: number): MemberMultiplier[] => [
    { memberId, rigId: 'rig', skyClass, multiplier, entitledHours: 0, chargedHours: 0 },
  ];

  it('has each member’s light times the multiplier of its sky, and no other', () => {
    const weighed = weightedSeason(season, shares(), only('ana', 'bright', 2));
    let isMoonlitSeen = false;
    weighed.lanes.forEach(({ rates, slots, moonlit }, l) => {
      const before = season.problem.lanes[l].rates;
      for (const { row, panel } of season.problem.goals) {
        const isAna = memberOf[season.projectIds[season.problem.panels[panel].project]] === 'ana';
        for (let slot = 0; slot < slots; slot++) {
          const factor = isAna && moonlit![slot] ? 2 : 1;
          if (moonlit![slot] && before[row * slots + slot] > 0) isMoonlitSeen = true;
          expect(rates[row * slots + slot]).toBeCloseTo(factor * before[row * slots + slot], 5);
        }
      }
    });
    expect(isMoonlitSeen).toBe(true);
  });

  it('weighs balance and completion by the mean over what is left of the envelope', () => {
    const envelopeSec = { dark: 3000, bright: 1000 };
    const problem = {
      ...season.problem,
      projects: season.problem.projects.map((project) => ({ ...project, envelopeSec })),
    };
    const weighed = weightedSeason({ ...season, problem }, shares(), only('ana', 'dark', 2));
    weighed.projects.forEach(({ bonus }, r) => {
      const isAna = memberOf[season.projectIds[r]] === 'ana';
      expect(bonus).toBeCloseTo(season.problem.projects[r].bonus * (isAna ? 1.75 : 1), 9);
    });
  });
});
