import { describe, expect, it } from '@jest/globals';
import { seededRandom } from '../random.ts';
import { HOUR_MS } from '../units.ts';
import type { OpenStretch, UsableWork } from './entitlement.ts';
import { entitledHours } from './entitlement.ts';

const hours = (from: number, to: number) => ({ startUtcMs: from * HOUR_MS, endUtcMs: to * HOUR_MS });
const WEIGHTS = { dark: 1, bright: 0.5 };
const equal = { shareOf: () => 0.25, weights: WEIGHTS };
const dark = (from: number, to: number): OpenStretch => ({ ...hours(from, to), skyClass: 'dark' });
const bright = (from: number, to: number): OpenStretch => ({ ...hours(from, to), skyClass: 'bright' });
const work = (memberId: string, ...windows: ReturnType<typeof hours>[]): UsableWork => ({ memberId, windows });

const of = (found: ReturnType<typeof entitledHours>, memberId: string, skyClass = 'dark'): number =>
  found.find((one) => one.memberId === memberId && one.skyClass === skyClass)?.hours ?? 0;

describe('open hours of a night', () => {
  it('are shared equally among two with equal shares who both could work all night', () => {
    const found = entitledHours([dark(0, 8)], [work('ana', hours(0, 8)), work('ben', hours(0, 8))], equal);
    expect(of(found, 'ana')).toBeCloseTo(4);
    expect(of(found, 'ben')).toBeCloseTo(4);
  });

  it('go wholly to the one who could use them', () => {
    const found = entitledHours([dark(0, 8)], [work('ana', hours(0, 2)), work('ben', hours(0, 8))], equal);
    expect(of(found, 'ana')).toBeCloseTo(1);
    expect(of(found, 'ben')).toBeCloseTo(7);
  });

  it('entitle nobody where nobody has work', () => {
    expect(entitledHours([dark(0, 8)], [work('ana', hours(9, 10))], equal)).toEqual([]);
    expect(entitledHours([dark(0, 8)], [], equal)).toEqual([]);
  });

  it('count by the weight of their sky', () => {
    const found = entitledHours([dark(0, 2), bright(2, 6)], [work('ana', hours(0, 6))], equal);
    expect(of(found, 'ana', 'dark')).toBeCloseTo(2);
    expect(of(found, 'ana', 'bright')).toBeCloseTo(2);
  });

  it('follow shares by sky class', () => {
    const shareOf = (memberId: string, sky: string): number => (memberId === 'ana' ? (sky === 'dark' ? 0.6 : 0) : 0.2);
    const both = [work('ana', hours(0, 8)), work('ben', hours(0, 8))];
    const found = entitledHours([dark(0, 4), bright(4, 8)], both, { shareOf, weights: WEIGHTS });
    expect(of(found, 'ana', 'dark')).toBeCloseTo(3);
    expect(of(found, 'ben', 'dark')).toBeCloseTo(1);
    expect(of(found, 'ana', 'bright')).toBe(0);
    expect(of(found, 'ben', 'bright')).toBeCloseTo(2);
  });

  it('entitle nobody to what is nobody’s share', () => {
    expect(entitledHours([dark(0, 8)], [work('ana', hours(0, 8))], { shareOf: () => 0, weights: WEIGHTS })).toEqual([]);
  });

  it('add up to the open hours in which somebody could work, whatever the windows', () => {
    const random = seededRandom(5);
    for (let i = 0; i < 200; i++) {
      const members = Array.from(
        { length: 1 + Math.floor(random() * 4) },
        (_, m) =>
        work(`m${m}`, ...Array.from({ length: 1 + Math.floor(random() * 3) }, () => { const from = random() * 8; return hours(from, from + random() * 4); })), // prettier-ignore
      );
      const [first, second] = [random() * 5, 7 + random() * 3];
      const stretches = [dark(first, first + 2), bright(second, second + 2)];
      const shares = members.map(() => 0.1 + random());
      const shareOf = (memberId: string): number => shares[Number(memberId.slice(1))];
      const found = entitledHours(stretches, members, { shareOf, weights: { dark: 1, bright: 1 } });
      const total = found.reduce((sum, one) => sum + one.hours, 0);
      expect(total).toBeCloseTo(usableHours(stretches, members), 6);
    }
  });
});

/** The same hours by counting thousandths of an hour. */
function usableHours(open: readonly OpenStretch[], work_: readonly UsableWork[]): number {
  const edges = [...open, ...work_.flatMap(({ windows }) => windows)].flatMap((s) => [s.startUtcMs, s.endUtcMs]);
  const sorted = [...new Set(edges)].toSorted((a, b) => a - b);
  let sum = 0;
  for (let i = 0; i + 1 < sorted.length; i++) {
    const middle = (sorted[i] + sorted[i + 1]) / 2;
    const holds = (s: { startUtcMs: number; endUtcMs: number }): boolean =>
      s.startUtcMs < middle && middle < s.endUtcMs;
    if (open.some(holds) && work_.some(({ windows }) => windows.some(holds))) sum += sorted[i + 1] - sorted[i];
  }
  return sum / HOUR_MS;
}
