import { describe, expect, it } from '@jest/globals';
import { seededRandom } from '../random.ts';
import type { UnusedHours } from './swap-advice.ts';
import { swapAdvice } from './swap-advice.ts';

const unused = (memberId: string, dark: number, bright: number, rigId = 'rig'): UnusedHours[] => [
  { memberId, rigId, skyClass: 'dark', unusedHours: dark },
  { memberId, rigId, skyClass: 'bright', unusedHours: bright },
];

describe('a swap worth making', () => {
  it('is between one who lacks moonless hours and one who lacks moonlit ones', () => {
    const rows = [...unused('ana', -4, 6), ...unused('ben', 5, -3), ...unused('cora', 2, 2)];
    expect(swapAdvice(rows)).toEqual([
      { rigId: 'rig', givesBrightId: 'ana', givesDarkId: 'ben', brightHours: 3, darkHours: 4 },
    ]);
  });

  it('is none where both lack the same sky, on two rigs, or next to nothing', () => {
    expect(swapAdvice([...unused('ana', -4, 6), ...unused('ben', -1, 3)])).toEqual([]);
    expect(swapAdvice([...unused('ana', -4, 6, 'one'), ...unused('ben', 5, -3, 'two')])).toEqual([]);
    expect(swapAdvice([...unused('ana', -4, 6), ...unused('ben', 5, -0.2)])).toEqual([]);
  });

  it('brings both nearer to what they are entitled to, never past it', () => {
    const random = seededRandom(2);
    const hours = (): number => 20 * random() - 10;
    for (let i = 0; i < 100; i++) {
      const rows = ['a', 'b', 'c', 'd'].flatMap((member) => unused(member, hours(), hours()));
      const of = (memberId: string, sky: string): number =>
        rows.find((row) => row.memberId === memberId && row.skyClass === sky)!.unusedHours;
      for (const { givesBrightId, givesDarkId, brightHours, darkHours } of swapAdvice(rows)) {
        expect(of(givesBrightId, 'bright') - brightHours).toBeGreaterThanOrEqual(-1e-9);
        expect(of(givesDarkId, 'bright') + brightHours).toBeLessThanOrEqual(1e-9);
        expect(of(givesDarkId, 'dark') - darkHours).toBeGreaterThanOrEqual(-1e-9);
        expect(of(givesBrightId, 'dark') + darkHours).toBeLessThanOrEqual(1e-9);
      }
    }
  });
});
