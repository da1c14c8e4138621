// Flats of the twilit sky, against a simulated sky that darkens and brightens.
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { afterEach, describe, expect, it } from '@jest/globals';
import type { RunStep, SetToTake, TakenCalibration } from '@meridiem/contract';
import { luminaryDirection } from '@meridiem/core';
import type { How, Played, TestSite } from '../../test/night-harness.ts';
import { deviceRun, open, openSite, site, step, violations } from '../../test/night-harness.ts';
import { skyFlatSpan } from './sky-flats.ts';

const { nightRules } = deviceRun('');
const rules = { ...nightRules, skyFlatsLongestMin: 60 };
const DUSK = Date.parse('2026-12-08T17:00Z');
const DAWN = Date.parse('2026-12-09T01:30Z');
/** When the night must end. */
const endUtcMs = Date.parse('2026-12-09T02:32Z');
const FULL = 65_535;

const flat = (filterLetter: string): SetToTake => ({
  ...{ kind: 'flat', filterLetter, exposureSec: 1, gain: 100, offset: 30, binning: 1, region: null, sensorC: null },
  ...{
    filterId: `00000000-0000-4000-9000-00000000000${filterLetter === 'L' ? 1 : 2}`,
    mechanicalAngleDeg: 30,
    count: 3,
  },
});
/** One of a filter that is in the wheel no more is left out. */
const both = (taken: readonly TakenCalibration[]): SetToTake[] =>
  taken.length > 0 ? [] : [flat('Z'), flat('L'), flat('R')];
const stay = (atUtcMs: number): RunStep[] => [step(1, { focus: false, plannedStartUtcMs: atUtcMs })];

let at: TestSite | null = null;
afterEach(async () => {
  await at?.close();
  at = null;
});
async function played(startUtcMs: number, steps: readonly RunStep[], how: How): Promise<Played> {
  at = await openSite({ startUtcMs });
  return at.play(steps, { devices: { nightRules: rules, endUtcMs }, ...how });
}
const sunDeg = (utcMs: number): number => luminaryDirection(site, 'sun', utcMs).altitudeDeg;
const notes = ({ actions }: Played): string[] => actions.flatMap(({ kind, words }) => (kind === 'note' ? [words] : []));
const ended = ({ actions }: Played, wanted: string): number[] =>
  actions.flatMap(({ kind, outcome, endUtcMs: utcMs }) => (kind === wanted && outcome === 'done' ? [utcMs!] : []));

async function levelOf({ frame, exposureSec }: TakenCalibration): Promise<number> {
  const bytes = await readFile(join(at!.folder, frame.name));
  const pixels = 640 * 400;
  const start = bytes.length - Math.ceil((2 * pixels) / 2880) * 2880;
  const values = Array.from({ length: 2000 }, (_, i) => bytes.readInt16BE(start + 2 * i * 120) + 32_768).sort((a, b) => a - b); // prettier-ignore
  expect(exposureSec).toBeGreaterThanOrEqual(0.5);
  return values[1000] / FULL;
}

async function expectFlats({ calibration }: Played, letters: string): Promise<void> {
  expect(calibration.map(({ filterId }) => (filterId!.endsWith('1') ? 'L' : 'R')).join('')).toBe(letters);
  for (const one of calibration) {
    expect(Math.abs((await levelOf(one)) / (rules.flatLevelPercent / 100) - 1)).toBeLessThan(0.45);
    expect(sunDeg(one.startUtcMs)).toBeLessThan(rules.skyFlatsHighestSunDeg);
    expect(sunDeg(one.startUtcMs)).toBeGreaterThan(-10);
    expect(Math.round(one.mechanicalAngleDeg!)).toBe(30);
  }
}

describe('flats of the sky', () => {
  it('are taken at dusk, what wants most light first, each at its level; the night follows', async () => {
    const night = await played(DUSK, stay(Date.parse('2026-12-08T19:15Z')), { rigName: 'dusk', missing: both });
    expect([night.end, open(night), violations(night)]).toEqual(['finished', [], []]);
    await expectFlats(night, 'RRRLLL');
    expect(night.outcomes.get(1)!.outcome).toBe('done');
    // Long before the first exposure the roof is closed again.
    expect([ended(night, 'open roof').length, ended(night, 'close roof').length]).toEqual([2, 2]);
    expect(sunDeg(ended(night, 'open roof')[0])).toBeLessThan(1);
    const places = night.actions.flatMap(({ kind, words, outcome }) => (kind === 'slew' && words.startsWith('for flats') && outcome === 'done' ? [words] : [])); // prettier-ignore
    expect(places.length).toBeGreaterThanOrEqual(6);
  });

  it('are taken at dawn, what wants least light first, before the roof closes', async () => {
    let asked = 0;
    // At dusk nothing was owed yet.
    const missing: How['missing'] = (taken) => (++asked === 1 ? [] : both(taken));
    const night = await played(DAWN, stay(Date.parse('2026-12-09T01:50Z')), { rigName: 'dawn', missing });
    expect([night.end, open(night), violations(night)]).toEqual(['finished', [], []]);
    await expectFlats(night, 'LLLRRR');
    expect(night.truth).toMatchObject({ roof: 'closed', isParked: true });
    expect(sunDeg(ended(night, 'close roof').at(-1)!)).toBeLessThan(0);
  });

  it('open nothing where none are owed, or the rig takes none', async () => {
    const at = Date.parse('2026-12-08T19:15Z');
    const night = await played(DUSK, stay(at), { rigName: 'none', missing: () => [] });
    expect(ended(night, 'open roof')[0]).toBeGreaterThan(at - 400_000);
    expect(skyFlatSpan(deviceRun('', { nightRules }), 'dusk')).toBeNull();
  });

  it('end where the sky turns unsafe, with the roof closed; the night goes on', async () => {
    const night = await played(DUSK, stay(Date.parse('2026-12-08T19:40Z')), {
      rigName: 'unsafe',
      missing: both,
      fault: { during: 'sky flat', fault: 'unsafe', forSec: 1500 },
    });
    expect(violations(night)).toEqual([]);
    expect(notes(night).some((words) => words.startsWith('No more flats of the sky:'))).toBe(true);
    const unsafeUtcMs = night.actions.find(({ outcome }) => outcome === 'interrupted')?.endUtcMs;
    expect(ended(night, 'close roof')[0]! - unsafeUtcMs!).toBeLessThan(240_000);
    expect([night.end, night.outcomes.get(1)!.outcome]).toEqual(['finished', 'done']);
  });

  it('lie between sunset and the first stars, no longer than the rig’s limit', () => {
    const short = deviceRun('', { endUtcMs, nightRules: { ...rules, skyFlatsLongestMin: 10 } });
    for (const twilight of ['dusk', 'dawn'] as const) {
      const span = skyFlatSpan(short, twilight)!;
      expect(span.endUtcMs - span.startUtcMs).toBe(600_000);
      expect(Math.abs(sunDeg(span.startUtcMs) - (twilight === 'dusk' ? -3 : -10))).toBeLessThan(0.2);
    }
    // Where the sun does not set there is no twilight.
    expect(skyFlatSpan({ ...short, site: { latitudeDeg: -80, longitudeDeg: 20, elevationM: 0 } }, 'dusk')).toBeNull();
  });
});
