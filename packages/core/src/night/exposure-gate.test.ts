import { describe, expect, it } from '@jest/globals';
import { DEFAULT_BOUNDS } from '../limits/limit-values.ts';
import { horizonProfile } from '../sky/horizon.ts';
import { exposureGate } from './exposure-gate.ts';

const setting = {
  site: { latitudeDeg: -30, longitudeDeg: 20, elevationM: 1000 },
  horizon: horizonProfile([]),
  bounds: DEFAULT_BOUNDS,
  endUtcMs: Date.parse('2026-12-09T02:00Z'),
};
const high = { raDeg: 70, decDeg: -35 };
const night = Date.parse('2026-12-08T21:00Z');
const words = (gate: ReturnType<typeof exposureGate>): string => (gate.isOpen ? 'open' : gate.words);

describe('before an exposure', () => {
  it('a high target in the dark is let through', () =>
    expect(exposureGate(setting, high, night, 300)).toEqual({ isOpen: true }));
  it('what would outlast the night is not begun, to the second', () => {
    expect(exposureGate(setting, high, setting.endUtcMs - 300_000, 300).isOpen).toBe(true);
    expect(words(exposureGate(setting, high, setting.endUtcMs - 299_000, 300))).toBe('it would end after the night');
  });
  it('the Sun, the mount’s lowest altitude, the horizon and the zenith hold it back', () => {
    expect(words(exposureGate(setting, high, Date.parse('2026-12-08T15:00Z'), 60))).toMatch(/^the Sun would be at \d/);
    expect(words(exposureGate(setting, { raDeg: 250, decDeg: -35 }, night, 60))).toMatch(/^the target would be at/);
    const behind = { ...setting, horizon: horizonProfile([{ azimuthDeg: 0, altitudeDeg: 80 }, { azimuthDeg: 180, altitudeDeg: 80 }]) }; // prettier-ignore
    expect(words(exposureGate(behind, { raDeg: 70, decDeg: 0 }, night, 60))).toBe(
      'the target would be behind the horizon',
    );
    const holed = { ...setting, bounds: { ...DEFAULT_BOUNDS, mountZenithHoleDeg: 40 } };
    expect(words(exposureGate(holed, high, night, 60))).toContain('too near the zenith');
  });
  it('what sets while it is exposed is not begun', () => {
    // Sinking through the mount's 15° within the hour: open at first, shut for an exposure that would end below.
    const low = { raDeg: 330, decDeg: -20 };
    const isOpenFor = (exposureSec: number): boolean[] =>
      Array.from(
        { length: 36 },
        (_, i) => exposureGate(setting, low, night - 3_600_000 + i * 300_000, exposureSec).isOpen,
      );
    const opens = (list: boolean[]): number => list.filter(Boolean).length;
    expect(opens(isOpenFor(10))).toBeGreaterThan(opens(isOpenFor(1800)));
  });
});
