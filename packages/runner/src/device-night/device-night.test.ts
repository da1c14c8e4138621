// A whole night against the simulated observatory, over HTTP, judged by what that observatory says happened.
import { mkdtemp, readdir, readFile, rm } from 'node:fs/promises';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, it } from '@jest/globals';
import type { ClaimedRun, DeviceRun, RunAction, RunStep } from '@meridiem/contract';
import { DEFAULT_BOUNDS, DEFAULT_STEP_COSTS, directionOf, NIGHT_ENDS, readFitsHeaders } from '@meridiem/core';
import type { Fault, TruthEntry } from '@meridiem/simulator';
import { observatoryRoutes } from '@meridiem/simulator';
import Fastify from 'fastify';
import type { ExposureOutcome } from './context.ts';
import { runDeviceNight } from './run-device-night.ts';

const site = { latitudeDeg: -30, longitudeDeg: 20, elevationM: 1000 };
const START = Date.parse('2026-12-08T20:30Z');
const target = { raDeg: 70, decDeg: -35 };

const step = (seq: number, more: Partial<RunStep> = {}): RunStep => ({
  id: `00000000-0000-4000-8000-${String(seq).padStart(12, '0')}`,
  seq,
  plannedStartUtcMs: START + (seq - 1) * 75_000,
  exposureSec: 60,
  panelId: 'a',
  panelName: 'Veil, panel 1',
  filterLetter: seq > 2 ? 'R' : 'L',
  filterClass: 'broadband',
  ...target,
  positionAngleDeg: 40,
  gain: 100,
  offset: 30,
  binning: 1,
  region: null,
  sensorC: -10,
  ditherEvery: 2,
  ditherPx: 5,
  guide: true,
  centre: true,
  focus: true,
  rateShare: 0.9,
  airmass: 1.1,
  transparency: 0.9,
  skyRatio: 1,
  ...more,
});

const deviceRun = (baseUrl: string, more: Partial<DeviceRun> = {}): DeviceRun => ({
  isSimulated: true,
  baseUrl,
  site,
  horizon: [],
  bounds: DEFAULT_BOUNDS,
  endUtcMs: START + 6 * 3_600_000,
  optics: { apertureMm: 106, focalLengthMm: 530, pixelUm: 9, widthPx: 500, heightPx: 400 },
  readNoiseE: 3,
  ePerAdu: 1,
  coolingBelowC: 40,
  rotatorKind: 'motor',
  angleToleranceDeg: 2,
  skyAngleDeg: 0,
  drawtubeMm: 80,
  mirrors: 'even',
  flips: true,
  flipAfterSec: 600,
  mountLimitAfterSec: 1800,
  park: { altitudeDeg: 10, azimuthDeg: 180 },
  roofClears: false,
  costs: { ...DEFAULT_STEP_COSTS },
  wheel: [
    { place: 0, letter: 'L', widthNm: 260, focusOffsetSteps: 0 },
    { place: 1, letter: 'R', widthNm: 95, focusOffsetSteps: 60 },
  ],
  ...more,
});

let app: ReturnType<typeof Fastify>;
let origin: string;
let folder: string;
beforeEach(async () => {
  folder = await mkdtemp(join(tmpdir(), 'frames-'));
  app = Fastify();
  await app.register(observatoryRoutes, {
    realNowMs: () => performance.now(),
    startUtcMs: () => START,
    stars: () => [],
  });
  await app.listen({ host: '127.0.0.1', port: 0 });
  origin = `http://127.0.0.1:${(app.server.address() as AddressInfo).port}`;
});
afterEach(async () => {
  await app.close();
  await rm(folder, { recursive: true });
});

interface Played {
  readonly end: string;
  readonly actions: readonly RunAction[];
  readonly outcomes: ReadonlyMap<number, ExposureOutcome>;
  readonly truth: { readonly entries: readonly TruthEntry[]; readonly roof: string; readonly isParked: boolean };
}

/** @param before what is done to the rig when the step of this number begins */
async function play(
  steps: readonly RunStep[],
  {
    devices = {},
    fault,
    stopAt,
  }: { devices?: Partial<DeviceRun>; fault?: { at: number; fault: Fault; forSec: number }; stopAt?: number } = {},
): Promise<Played> {
  const baseUrl = `${origin}/rigs/one`;
  const run = {
    id: 'run', fence: 1, speed: 600, leaseSec: 20, nightDate: '2026-12-08', rehearsal: false,
    rig: { id: 'one', name: 'Wren', imageScaleArcsec: 3.5 }, deviceRun: deviceRun(baseUrl, devices), steps: [...steps],
  } as ClaimedRun; // prettier-ignore
  const actions: RunAction[] = [];
  const outcomes = new Map<number, ExposureOutcome>();
  let isStopped = false;
  const end = await runDeviceNight(run, {
    framesFolder: folder,
    sleep: (ms) => new Promise((resolve) => setTimeout(resolve, ms)),
    report: (action) => void actions.push(action),
    isStopped: () => isStopped,
    begin: ({ seq }) => {
      if (stopAt === seq) isStopped = true;
      if (fault?.at === seq)
        void fetch(`${baseUrl}/faults`, {
          method: 'PUT',
          body: JSON.stringify(fault),
          headers: { 'content-type': 'application/json' },
        });
    },
    finish: ({ seq }, outcome) => void outcomes.set(seq, outcome),
  });
  const truth = (await (await fetch(`${baseUrl}/truth`)).json()) as Played['truth'];
  return { end, actions, outcomes, truth };
}

const violations = ({ truth }: Played): string[] =>
  truth.entries.filter((entry) => entry.isViolation).map(({ what }) => what);
const kinds = ({ actions }: Played): string[] =>
  actions.filter(({ outcome }) => outcome === 'done').map(({ kind }) => kind);
/** Every step that was begun has an outcome. */
const open = ({ actions }: Played): string[] => {
  const ended = new Set(actions.filter(({ outcome }) => outcome).map(({ id }) => id));
  return actions.filter(({ id }) => !ended.has(id)).map(({ kind, words }) => `${kind} ${words}`);
};

describe('a night with devices', () => {
  it('opens, exposes, and closes; its frames are on disk and point where they should', async () => {
    expect(directionOf(site, target, START).altitudeDeg).toBeGreaterThan(45);
    const played = await play([1, 2, 3, 4].map((seq) => step(seq)));
    expect([played.end, played.truth.roof, played.truth.isParked]).toEqual(['finished', 'closed', true]);
    expect(violations(played)).toEqual([]);
    expect(open(played)).toEqual([]);
    expect([...played.outcomes.values()].map(({ words }) => words)).toEqual(
      Array(4).fill(expect.stringMatching(/^Taken: \d+ stars$/)),
    );
    const done = kinds(played);
    for (const kind of [
      'connect',
      'open roof',
      'unstow',
      'slew',
      'focus',
      'solve',
      'rotate',
      'centre',
      'guide',
      'dither',
      'stow',
      'close roof',
      'warm up',
    ])
      expect(done).toContain(kind);
    expect(done.indexOf('stow')).toBeLessThan(done.indexOf('close roof'));
    const { exposure } = played.outcomes.get(1)!;
    expect(exposure!.starCount).toBeGreaterThan(20);
    expect(exposure!.halfFluxRadiusPx).toBeLessThan(2.5);
    const files = await readdir(join(folder, 'Wren', '2026-12-08'));
    expect(files).toHaveLength(4);
    const cards = readFitsHeaders(await readFile(join(folder, 'Wren', '2026-12-08', files[0]))).units[0].cards;
    const card = (keyword: string) => cards.find((one) => one.keyword === keyword)?.value;
    expect([card('EXPTIME'), card('FILTER'), card('NAXIS1'), card('SIMULATE')]).toEqual([60, 'L', 500, true]);
  });

  it('corrects a pointing that is off, to half an arcminute', async () => {
    const { actions } = await play([step(1)]);
    const centred = actions.find(({ kind, outcome }) => kind === 'centre' && outcome === 'done')!;
    expect(Number(/(\d+)″ after/.exec(centred.remark!)?.[1] ?? 0)).toBeLessThanOrEqual(30);
  });

  it('leaves a project for tonight where a person must turn the camera, and says by how much', async () => {
    const played = await play([step(1), step(2)], { devices: { rotatorKind: 'hand' } });
    const { words } = played.outcomes.get(1)!;
    expect(words).toMatch(/must be turned by 40\.\d° (counter-)?clockwise, 2[78] mm along the drawtube/);
    expect([played.end, played.truth.roof, played.outcomes.get(2)!.outcome]).toEqual(['finished', 'closed', 'lost']);
  });

  it('closes when the sky turns unsafe, and exposes again when it has been safe for long enough', async () => {
    const later = step(3, { plannedStartUtcMs: START + 5_400_000, panelId: 'b' });
    const played = await play([step(1), step(2), later], { fault: { at: 2, fault: 'unsafe', forSec: 600 } });
    expect(violations(played)).toEqual([]);
    expect(played.actions.map(({ outcome }) => outcome)).toContain('interrupted');
    expect(kinds(played).filter((kind) => kind === 'close roof')).toHaveLength(2);
    expect([played.outcomes.get(1)!.outcome, played.outcomes.get(3)!.outcome, played.end]).toEqual([
      'done',
      'done',
      'finished',
    ]);
    expect(open(played)).toEqual([]);
  });

  it('ends at a person’s word, closed', async () => {
    const played = await play(
      [1, 2, 3].map((seq) => step(seq)),
      { stopAt: 2 },
    );
    expect([played.end, played.truth.roof, played.outcomes.size]).toEqual(['stopped', 'closed', 1]);
    expect(NIGHT_ENDS.stopped).toContain('closed');
  });

  it('never moves the roof over a mount that does not park, and says so', async () => {
    const played = await play([step(1), step(2)], { fault: { at: 2, fault: 'mount stuck', forSec: 36_000 } });
    expect([played.end, played.truth.isParked]).toEqual(['not closed', false]);
    expect(played.truth.roof).toBe('open');
    expect(violations(played)).toEqual([]);
    expect(played.actions.some(({ words }) => words.includes('Someone must go there'))).toBe(true);
  });

  it.each([
    ['camera lost', 'lost'],
    ['guide star lost', 'done'],
    ['focuser stuck', 'done'],
    ['solve fails', 'done'],
    ['slow answers', 'done'],
  ] as const)('goes on by rule after %s, closed at the end', async (fault, outcome) => {
    const played = await play(
      [1, 2].map((seq) => step(seq)),
      { fault: { at: 1, fault, forSec: 20 } },
    );
    expect([played.end, played.truth.roof]).toEqual(['finished', 'closed']);
    expect(played.outcomes.get(1)!.outcome).toBe(outcome);
    expect(violations(played)).toEqual([]);
    expect(open(played)).toEqual([]);
  });
});
