import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import type { Identifiable, KnownExposure } from './identity.ts';
import { identitiesOf } from './identity.ts';

const START = Date.parse('2026-10-10T12:34:56.789Z');
const frame = (over: Partial<Identifiable> & { frameId?: string } = {}) => ({
  frameId: 'f',
  rigId: 'rig',
  startUtcMs: START,
  exposureSec: 120,
  dataSha256: null,
  pixelsSha256: null,
  headerKey: 'key',
  ...over,
});
const known = (over: Partial<KnownExposure> = {}): KnownExposure => ({
  ...frame(),
  headerKey: 'other key',
  exposureId: 'e',
  isWithdrawn: false,
  ...over,
});
const one = (mine: ReturnType<typeof frame>, ...ledger: KnownExposure[]) => identitiesOf([mine], ledger).get('f')!;

describe('the same frame', () => {
  it.each([
    ['as it was', {}],
    ['with its start cut to the second', { startUtcMs: START - 789 }],
    ['with its start rounded up', { startUtcMs: START + 211 }],
    ['converted, with other data', { dataSha256: 'b'.repeat(64) }],
    ['with its length written differently', { exposureSec: 120.4 }],
  ])('%s is known', (_, over) => {
    expect(one(frame(over), known({ dataSha256: 'a'.repeat(64) }))).toMatchObject({ is: 'known', exposureId: 'e' });
  });
  it('within one import is known too', () => {
    const copies = ['a', 'b', 'c'].map((frameId) => frame({ frameId, headerKey: frameId }));
    const found = identitiesOf(copies, []);
    expect([...found.values()].map(({ is }) => is)).toEqual(['new', 'known', 'known']);
  });
});

describe('another frame', () => {
  it.each([
    ['a second and a half later', { startUtcMs: START + 1500 }],
    ['of another rig', { rigId: 'other rig' }],
    ['of another length', { exposureSec: 60 }],
  ])('%s is new', (_, over) => expect(one(frame(over), known()).is).toBe('new'));
  describe('as short as its start is uncertain', () => {
    const [a, b] = ['a'.repeat(64), 'b'.repeat(64)];
    const short = { exposureSec: 0.5 };
    it.each([
      ['of which nothing more is known', {}, {}, 'unclear'],
      ['with the same data', { dataSha256: a }, { dataSha256: a }, 'known'],
      ['with the same pixels, written otherwise', { dataSha256: b, pixelsSha256: a }, { dataSha256: a, pixelsSha256: a }, 'known'], // prettier-ignore
      ['with other pixels', { dataSha256: b, pixelsSha256: b }, { dataSha256: a, pixelsSha256: a }, 'new'],
      ['with other data, and pixels that nobody knows', { dataSha256: b }, { dataSha256: a }, 'unclear'],
    ])('one %s', (_, mine, theirs, is) =>
      expect(one(frame({ ...short, ...mine }), known({ ...short, ...theirs })).is).toBe(is),
    );
    it('asks in words', () =>
      expect(one(frame(short), known(short))).toMatchObject({ words: expect.stringMatching(/same\?/) }));
  });
  it('can’t be kept out by a hash that somebody has given before', () => {
    const dataSha256 = 'a'.repeat(64);
    const forged = known({ startUtcMs: START - 3_600_000, dataSha256, rigId: 'rig' });
    expect(one(frame({ dataSha256 }), forged).is).toBe('unclear');
  });
});

it('every frame counts once, in whatever order copies come', () => {
  const copy = fc.record({
    which: fc.integer({ min: 0, max: 4 }),
    jitterMs: fc.integer({ min: 0, max: 400 }),
    sha: fc.option(fc.constantFrom('a', 'b', 'c'), { nil: null }),
  });
  fc.assert(
    fc.property(fc.array(copy, { minLength: 1, maxLength: 30 }), (copies) => {
      const frames = copies.map(({ which, jitterMs, sha }, i) =>
        frame({
          frameId: String(i),
          headerKey: `key ${i}`,
          startUtcMs: START + which * 130_000 + jitterMs,
          dataSha256: sha && `${sha}${which}`.repeat(32),
        }),
      );
      const fresh = [...identitiesOf(frames, []).values()].filter(({ is }) => is === 'new').length;
      expect(fresh).toBe(new Set(copies.map(({ which }) => which)).size);
    }),
  );
});
