import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import type { AccountedExposure, LostFrame, NightFacts, TimeRemark } from './time-account.ts';
import { chargedHours, DEFAULT_CHARGE_WEIGHTS, nightAccount, TIME_KINDS } from './time-account.ts';

const MINUTE = 60_000;
const NIGHT = { startUtcMs: 0, endUtcMs: 24 * 60 * MINUTE };
const at = (startMin: number, endMin: number) => ({ startUtcMs: startMin * MINUTE, endUtcMs: endMin * MINUTE });
const anna = { projectId: 'p1', memberId: 'anna' };
const ben = { projectId: 'p2', memberId: 'ben' };
const light = (id: string, startMin: number, endMin: number, owner = anna, panelId = owner.projectId) =>
  ({ id, kind: 'light', panelId, owner, ...at(startMin, endMin) }) satisfies AccountedExposure;
const nothing: NightFacts = {
  night: NIGHT,
  exposures: [],
  lostFrames: [],
  remarks: [],
  sunUp: [at(0, 480), at(1140, 1440)],
  moonUp: [at(900, 1300)],
  arrivalSec: 120,
  downloadSec: 60,
};
const told = (facts: Partial<NightFacts>) =>
  nightAccount({ ...nothing, ...facts }).map(
    ({ startUtcMs, endUtcMs, kind, skyClass }) => `${startUtcMs / MINUTE}-${endUtcMs / MINUTE} ${kind} ${skyClass}`,
  );

describe('the account of a night', () => {
  it('is idle from noon to noon where nothing happened, split where the sky changes its class', () => {
    expect(told({})).toEqual(['0-480 idle day', '480-900 idle dark', '900-1140 idle bright', '1140-1440 idle day']);
  });

  it('charges a stay from the slew to the last download and waits between stays', () => {
    const exposures = [light('a', 600, 610), light('b', 612, 622), light('c', 700, 710, ben)];
    expect(told({ exposures }).slice(2, -3)).toEqual([
      '598-600 overhead dark',
      '600-610 exposing dark',
      '610-612 overhead dark',
      '612-622 exposing dark',
      '622-623 overhead dark',
      '623-698 waiting dark',
      '698-700 overhead dark',
      '700-710 exposing dark',
      '710-711 overhead dark',
    ]);
  });

  it('opens a new stay after a long break on the same panel', () => {
    expect(told({ exposures: [light('a', 600, 610), light('b', 640, 650)] })).toContain('611-638 waiting dark');
  });

  it('calls a frame that never came a fault, and lets a remark stand above all', () => {
    const lostFrames: LostFrame[] = [{ panelId: 'p1', owner: anna, ...at(612, 622) }];
    const remarks: TimeRemark[] = [{ id: 'r', kind: 'weather', ...at(605, 615) }];
    expect(told({ exposures: [light('a', 600, 610)], lostFrames, remarks }).slice(3, 6)).toEqual([
      '600-605 exposing dark',
      '605-615 weather dark',
      '615-622 fault dark',
    ]);
  });

  it('keeps an exposure whole as one exposure where the moon rises in it', () => {
    const account = nightAccount({ ...nothing, exposures: [light('a', 890, 910)] });
    expect(account.filter(({ exposureId }) => exposureId === 'a').map(({ skyClass }) => skyClass)).toEqual([
      'dark',
      'bright',
    ]);
  });

  it('charges dark hours whole and moonlit ones half, and nothing that the site spoiled', () => {
    const account = nightAccount({
      ...nothing,
      arrivalSec: 0,
      downloadSec: 0,
      exposures: [light('a', 600, 660), light('b', 660, 720), light('c', 960, 1020)],
    });
    expect(chargedHours(account, DEFAULT_CHARGE_WEIGHTS, () => false)).toBeCloseTo(2.5, 12);
    expect(chargedHours(account, DEFAULT_CHARGE_WEIGHTS, (id) => id === 'a')).toBeCloseTo(1.5, 12);
  });
});

const stretch = fc
  .tuple(fc.integer({ min: -60, max: 1500 }), fc.integer({ min: 1, max: 200 }))
  .map(([start, length]) => at(start, start + length));
const owner = fc.constantFrom(anna, ben);
const facts = fc.record({
  exposures: fc.array(fc.tuple(stretch, owner, fc.constantFrom('light' as const, 'calibration' as const)), {
    maxLength: 12,
  }),
  lostFrames: fc.array(fc.tuple(stretch, owner), { maxLength: 4 }),
  remarks: fc.array(fc.tuple(stretch, fc.constantFrom(...TIME_KINDS)), { maxLength: 4 }),
});
const nightOf = (given: Parameters<Parameters<typeof facts.map>[0]>[0]): NightFacts => ({
  ...nothing,
  exposures: given.exposures.map(([span, own, kind], i) => ({
    id: `e${i}`,
    kind,
    panelId: own.projectId,
    owner: own,
    ...span,
  })),
  lostFrames: given.lostFrames.map(([span, own]) => ({ panelId: own.projectId, owner: own, ...span })),
  remarks: given.remarks.map(([span, kind], i) => ({ id: `r${i}`, kind, ...span })),
});

describe('any account', () => {
  it('covers the night without gap or overlap, whatever overlaps in it', () => {
    fc.assert(
      fc.property(facts, (given) => {
        const account = nightAccount(nightOf(given));
        expect(account[0].startUtcMs).toBe(NIGHT.startUtcMs);
        expect(account.at(-1)!.endUtcMs).toBe(NIGHT.endUtcMs);
        for (const [i, entry] of account.entries()) {
          expect(entry.endUtcMs).toBeGreaterThan(entry.startUtcMs);
          if (i > 0) expect(entry.startUtcMs).toBe(account[i - 1].endUtcMs);
        }
      }),
    );
  });

  it('gives every moment to the highest claim on it', () => {
    fc.assert(
      fc.property(facts, fc.integer({ min: 0, max: 1439 }), (given, minute) => {
        const night = nightOf(given);
        const utcMs = (minute + 0.5) * MINUTE;
        const covers = ({ startUtcMs, endUtcMs }: { startUtcMs: number; endUtcMs: number }) =>
          startUtcMs <= utcMs && utcMs < endUtcMs;
        const entry = nightAccount(night).find(covers)!;
        const remarks = night.remarks.filter(covers);
        const exposures = night.exposures.filter(covers);
        if (remarks.length > 0) expect(remarks.map(({ kind }) => kind)).toContain(entry.kind);
        else if (exposures.length > 0) expect(exposures.map(({ id }) => id)).toContain(entry.exposureId);
        else if (night.lostFrames.some(covers)) expect(entry.kind).toBe('fault');
        else expect(['overhead', 'waiting', 'idle']).toContain(entry.kind);
      }),
    );
  });
});
