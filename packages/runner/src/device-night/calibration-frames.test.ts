// Flats, darks and bias after a night: under a closed roof, within the rig's limit of minutes, and never where the site is not closed.
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { SetToTake, TakenCalibration } from '@meridiem/contract';
import { cardOf, frameFacts, imageOf, readFitsHeaders } from '@meridiem/core';
import type { How, Played, TestSite } from '../../test/night-harness.ts';
import { deviceRun, open, openSite, START, step, violations } from '../../test/night-harness.ts';

let at: TestSite;
beforeAll(async () => void (at = await openSite()));
afterAll(() => at.close());

const read = {
  filterId: null,
  filterLetter: null,
  gain: 100,
  offset: 30,
  binning: 1,
  region: null,
  mechanicalAngleDeg: null,
};
const BIAS: SetToTake = { kind: 'bias', exposureSec: 0, ...read, sensorC: null, count: 3 };
const PART = { widthPx: 200, heightPx: 160 };
const DARK: SetToTake = { kind: 'dark', exposureSec: 60, ...read, binning: 2, region: PART, sensorC: -10, count: 2 };
const flat = (filterLetter: string, exposureSec: number, mechanicalAngleDeg: number | null = null): SetToTake => ({
  ...{ kind: 'flat', ...read, filterLetter, exposureSec, mechanicalAngleDeg, sensorC: null, count: 2 },
  filterId: `00000000-0000-4000-9000-00000000000${filterLetter.length}`,
});
/** What is missing of some sets once some was taken. */
const lacking =
  (...sets: SetToTake[]) =>
  (taken: readonly TakenCalibration[]): SetToTake[] =>
    sets.filter(({ kind }) => !taken.some((one) => one.kind === kind));

const { nightRules } = deviceRun('');
const FULL = 65_535;
const played = (how: How, rules: Partial<typeof nightRules> = { darksLongestMin: 30 }): Promise<Played> =>
  at.play([step(1, { focus: false })], { missing: lacking(BIAS, DARK), devices: { nightRules: { ...nightRules, ...rules } }, ...how }); // prettier-ignore
const kinds = ({ calibration }: Played): string => calibration.map(({ kind }) => kind).join(' ');
const notes = ({ actions }: Played): string[] => actions.flatMap(({ kind, words }) => (kind === 'note' ? [words] : []));
const fileOf = ({ frame }: TakenCalibration): Promise<Buffer> => readFile(join(at.folder, frame.name));

/** Counts of a picture: its median, and means of its middle and a corner. */
async function levelOf(taken: TakenCalibration): Promise<{ median: number; middle: number; corner: number }> {
  const bytes = await fileOf(taken);
  const { cards } = imageOf(readFitsHeaders(bytes))!;
  const [width, height] = ['NAXIS1', 'NAXIS2'].map((keyword) => Number(cardOf(cards, keyword)!.value));
  const start = bytes.length - Math.ceil((2 * width * height) / 2880) * 2880;
  const valueAt = (x: number, y: number): number => bytes.readInt16BE(start + 2 * (y * width + x)) + 32_768;
  const mean = (x0: number, y0: number): number => {
    let sum = 0;
    for (let y = y0; y < y0 + 10; y++) for (let x = x0; x < x0 + 10; x++) sum += valueAt(x, y);
    return sum / 100;
  };
  const sorted = Array.from({ length: width * height }, (_, i) => valueAt(i % width, Math.floor(i / width))).sort((a, b) => a - b); // prettier-ignore
  const median = sorted[Math.floor(sorted.length / 2)];
  return { median, middle: mean(Math.floor(width / 2), Math.floor(height / 2)), corner: mean(0, 0) };
}

describe('darks and bias after a night', () => {
  it('are taken once the roof is closed, cold, and on disk with what they are', async () => {
    const night = await played({ rigName: 'whole' });
    expect([kinds(night), night.end, open(night), violations(night)]).toEqual(['bias bias bias dark dark', 'finished', [], []]); // prettier-ignore
    const closedUtcMs = night.actions.findLast(({ kind, outcome }) => kind === 'close roof' && outcome === 'done')!.endUtcMs!; // prettier-ignore
    const warmUtcMs = night.actions.find(({ kind }) => kind === 'warm up')!.startUtcMs;
    for (const { startUtcMs } of night.calibration) {
      expect(startUtcMs).toBeGreaterThanOrEqual(closedUtcMs);
      expect(startUtcMs).toBeLessThan(warmUtcMs);
    }
    const dark = night.calibration.at(-1)!;
    const bytes = await fileOf(dark);
    expect(bytes.length).toBe(dark.frame.sizeBytes);
    const headers = readFitsHeaders(bytes);
    const { cards } = imageOf(headers)!;
    const valueOf = (keyword: string) => cardOf(cards, keyword)?.value;
    expect([valueOf('IMAGETYP'), valueOf('XBINNING'), valueOf('SIMULATE')]).toEqual(['DARK', 2, true]);
    expect([valueOf('NAXIS1'), valueOf('NAXIS2'), dark.region]).toEqual([PART.widthPx / 2, PART.heightPx / 2, PART]);
    const facts = frameFacts(headers, { timeZone: 'UTC' })!;
    expect(facts).toMatchObject({ kind: 'dark', exposureSec: 60, gain: 100, startUtcMs: dark.startUtcMs });
    expect(Math.abs(dark.sensorC + 10)).toBeLessThan(1);
    expect((await levelOf(dark)).middle).toBeCloseTo(300, -1);
  });

  it('are as many as fit into the minutes of the rig, and none where it has none', async () => {
    const short = await played({ rigName: 'short' }, { darksLongestMin: 1 });
    expect(kinds(short)).toBe('bias bias bias');
    expect(notes(short)).toContain('The time for darks is over; the rest waits for another night');
    const none = await played({ rigName: 'none' }, { darksLongestMin: 0 });
    expect([kinds(none), none.end]).toEqual(['', 'finished']);
  });

  it('are not taken where a person ended the night, nor where the roof did not close', async () => {
    const stopped = await played({ rigName: 'stopped', stopAt: 1 });
    expect([kinds(stopped), stopped.end]).toEqual(['', 'stopped']);
    const stuck = await played({ rigName: 'stuck', fault: { during: 'stow', fault: 'roof stuck', forSec: 50_000 } }, { darksLongestMin: 30, closingTries: 1 }); // prettier-ignore
    expect([kinds(stuck), stuck.end]).toEqual(['', 'not closed']);
  });

  it('end with a camera that fails, and leave the night as it ended', async () => {
    const night = await played({ rigName: 'failing', fault: { during: 'dark', fault: 'camera lost', forSec: 50_000 } });
    expect([night.end, night.truth.roof, open(night)]).toEqual(['finished', 'closed', []]);
    expect(notes(night).some((words) => words.startsWith('No more darks:'))).toBe(true);
  });
});

describe('flats after a night', () => {
  const rules = { flatsLongestMin: 30, darksLongestMin: 30 };

  it('reach their level by an exposure found by test, filter by filter, and the light is off before and after', async () => {
    const night = await played({ rigName: 'flats', missing: lacking(flat('L', 1), flat('R', 20), BIAS) }, rules);
    expect([kinds(night), night.end, open(night), violations(night)]).toEqual(['flat flat flat flat bias bias bias', 'finished', [], []]); // prettier-ignore
    const flats = night.calibration.filter(({ kind }) => kind === 'flat');
    for (const one of flats) {
      const { median, middle, corner } = await levelOf(one);
      expect(Math.abs(median / FULL / (nightRules.flatLevelPercent / 100) - 1)).toBeLessThan(0.12);
      expect(corner / middle).toBeCloseTo(0.92, 1);
    }
    const { cards } = imageOf(readFitsHeaders(await fileOf(flats[0])))!;
    expect([cardOf(cards, 'IMAGETYP')!.value, cardOf(cards, 'FILTER')!.value]).toEqual(['FLAT', 'L']);
    const lights = night.actions.filter(({ kind, outcome }) => kind === 'flat light' && outcome === 'done').map(({ words }) => words); // prettier-ignore
    expect([lights[0], lights.at(-1)]).toEqual(['on, 100 %', 'off']);
  });

  it('are taken at the angles of their lights, half a turn apart too, where a motor turns the camera', async () => {
    const missing = (taken: readonly TakenCalibration[]): SetToTake[] => (taken.length > 0 ? [] : [flat('L', 1, 30), flat('L', 1, 210)]); // prettier-ignore
    const night = await played({ rigName: 'angles', missing }, rules);
    expect([kinds(night), night.end, violations(night)]).toEqual(['flat flat flat flat', 'finished', []]);
    expect(night.calibration.map(({ mechanicalAngleDeg }) => Math.round(mechanicalAngleDeg!))).toEqual([
      30, 30, 210, 210,
    ]);
    const { cards } = imageOf(readFitsHeaders(await fileOf(night.calibration[3])))!;
    expect(cardOf(cards, 'ROTATANG')!.value).toBeCloseTo(210, 0);
    const [light] = [...night.outcomes.values()].map(({ exposure }) => exposure!);
    expect(light.mechanicalAngleDeg).toBeGreaterThanOrEqual(0);
    expect(light.mechanicalAngleDeg).toBeLessThanOrEqual(360);
  });

  it('find their light switched off at the beginning of a night, where it was left on', async () => {
    let isLeftOn = false;
    const night = await played(
      {
        rigName: 'left-on',
        missing: lacking(BIAS),
        onReport: ({ kind, outcome }, baseUrl) => {
          if (kind !== 'connect' || outcome !== null || isLeftOn) return;
          isLeftOn = true;
          void fetch(`${baseUrl}/api/v1/covercalibrator/0/calibratoron`, { method: 'PUT', body: 'Brightness=200', headers: { 'content-type': 'application/x-www-form-urlencoded' } }); // prettier-ignore
        },
      },
      rules,
    );
    expect(isLeftOn).toBe(true);
    expect([night.end, violations(night)]).toEqual(['finished', []]);
    expect(night.actions.find(({ kind, outcome }) => kind === 'flat light' && outcome !== null)).toMatchObject({ words: 'off', outcome: 'done' }); // prettier-ignore
  });

  it('are left out where their light does not answer; darks are taken all the same', async () => {
    const night = await played({ rigName: 'dark', devices: { nightRules: { ...nightRules, ...rules, flatLevelPercent: 80 } }, missing: lacking(flat('Z', 1), BIAS) }); // prettier-ignore
    expect(kinds(night)).toBe('bias bias bias');
    expect(notes(night).join()).toContain('No more flats: Z is in no place of the wheel');
    const lights = night.actions.filter(({ kind }) => kind === 'flat light');
    expect(lights.at(-1)).toMatchObject({ words: 'off', outcome: 'done' });
  });

  it('are taken under a sky that has turned unsafe as well: the roof is closed', async () => {
    const night = await played({ rigName: 'unsafe', devices: { endUtcMs: START + 3_600_000, nightRules: { ...nightRules, ...rules } }, fault: { at: 1, fault: 'unsafe', forSec: 90_000 }, missing: lacking(flat('R', 2)) }); // prettier-ignore
    expect([kinds(night), night.end, violations(night)]).toEqual(['flat flat', 'closed early', []]);
  });

  describe('by a light that must be pointed at', () => {
    const pointed = { ...nightRules, ...rules, flatPanelAltitudeDeg: 20, flatPanelAzimuthDeg: 90 };

    it('are taken there, and the mount is parked again', async () => {
      const night = await played({ rigName: 'pointed', devices: { roofClears: true, nightRules: pointed }, missing: lacking(flat('L', 1)) }); // prettier-ignore
      expect([kinds(night), night.end, violations(night)]).toEqual(['flat flat', 'finished', []]);
      expect(Math.abs((await levelOf(night.calibration[0])).median / FULL / 0.45 - 1)).toBeLessThan(0.12);
      expect(night.truth).toMatchObject({ roof: 'closed', isParked: true });
    });

    it('are left out where the roof would close over a telescope in its way', async () => {
      const night = await played({ rigName: 'in-the-way', devices: { roofClears: false, nightRules: pointed }, missing: lacking(flat('L', 1), BIAS) }); // prettier-ignore
      expect([kinds(night), violations(night)]).toEqual(['bias bias bias', []]);
      expect(notes(night).join()).toContain('No flats: their light must be pointed at');
    });
  });
});

describe('darks of the guide camera', () => {
  const guideDarks = (night: Played): string[] => night.actions.flatMap(({ kind, words, outcome }) => (kind === 'guide darks' && outcome ? [`${words} ${outcome}`] : [])); // prettier-ignore
  const kept = { guideDarksKeepDays: 30, guideDarksCount: 10 };

  it('are taken by the guider where they are due, once the roof is closed', async () => {
    const night = await played({ rigName: 'guider', missing: () => [], areGuideDarksDue: true }, kept);
    expect([guideDarks(night), night.end, open(night)]).toEqual([['10 × 2 s done'], 'finished', []]);
    const lasted = night.actions.find(({ kind, outcome }) => kind === 'guide darks' && outcome)!;
    expect(lasted.endUtcMs! - lasted.startUtcMs).toBeGreaterThanOrEqual(20_000);
  });

  it('are left alone where they are not due, or the rig keeps none', async () => {
    const notDue = await played({ rigName: 'not-due', missing: () => [] }, kept);
    const none = await played({ rigName: 'no-darks', missing: () => [], areGuideDarksDue: true }, {});
    expect([guideDarks(notDue), guideDarks(none)]).toEqual([[], []]);
  });
});
