// A night with devices against a simulated observatory of its own, over HTTP.
import { mkdtemp, rm } from 'node:fs/promises';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { ClaimedRun, DeviceRun, RunAction, RunStep, SetToTake, StandingOrders, TakenCalibration, TestShotEnd } from '@meridiem/contract'; // prettier-ignore
import type { StepKind } from '@meridiem/core';
import { DEFAULT_BOUNDS, DEFAULT_STEP_COSTS, nightRulesWith, seedFrom } from '@meridiem/core';
import type { Fault, TruthEntry } from '@meridiem/simulator';
import { observatoryRoutes, weatherAt } from '@meridiem/simulator';
import Fastify from 'fastify';
import type { ExposureOutcome, NightHooks } from '../src/device-night/context.ts';
import { keptReports } from '../src/kept-reports.ts';
import { runDeviceNight } from '../src/device-night/run-device-night.ts';
import { fillDisk } from './full-disk.ts';

export const site = { latitudeDeg: -30, longitudeDeg: 20, elevationM: 1000 };
export const START = Date.parse('2026-12-08T20:30Z');
/** Shorter than usual, as every wait here: each second of a night costs the tests calls. */
export const SAFE_HOLD_MIN = 5;
export const target = { raDeg: 70, decDeg: -35 };
/** The simulated time may pass as fast as calls to devices allow. */
export const FREE_SPEED = 30_000;

export const step = (seq: number, more: Partial<RunStep> = {}): RunStep => ({
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

export const deviceRun = (baseUrl: string, more: Partial<DeviceRun> = {}): DeviceRun => ({
  isSimulated: true,
  baseUrl,
  site,
  horizon: [],
  bounds: DEFAULT_BOUNDS,
  endUtcMs: START + 6 * 3_600_000,
  optics: { apertureMm: 106, focalLengthMm: 530, pixelUm: 9, widthPx: 640, heightPx: 400 },
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
  ownSteps: [],
  nightRules: nightRulesWith({
    coolingLeadMin: 8,
    safeHoldMin: SAFE_HOLD_MIN,
    conditionsHoldMin: 5,
    closingPauseMin: 3,
  }),
  wheel: [
    { place: 0, letter: 'L', widthNm: 260, focusOffsetSteps: 0 },
    { place: 1, letter: 'R', widthNm: 95, focusOffsetSteps: 60 },
  ],
  ...more,
});

export interface Played {
  readonly end: string;
  readonly actions: readonly RunAction[];
  readonly outcomes: ReadonlyMap<number, ExposureOutcome>;
  /** Calibration frames that were taken, in order. */
  readonly calibration: readonly TakenCalibration[];
  readonly truth: { readonly entries: readonly TruthEntry[]; readonly roof: string; readonly isParked: boolean };
}

const CLEAR_HOURS = 4;

/** A name like the one given under which the simulated sky stays clear: weather comes of the name. */
function clearName(name: string, startUtcMs: number): string {
  for (let i = 0; i < 1000; i++) {
    const seed = seedFrom(`${name}-${i}`);
    const isClear = Array.from({ length: 12 * CLEAR_HOURS }, (_, k) => startUtcMs - 1_800_000 + k * 300_000).every(
      (utcMs) => weatherAt(seed, utcMs).cloudShare < 0.05,
    );
    if (isClear) return `${name}-${i}`;
  }
  throw new Error('no clear sky was found');
}

/** What goes wrong at the site itself and no device knows of. */
export type SiteFault = Fault | 'disk full';

export interface How {
  readonly devices?: Partial<DeviceRun>;
  /** Happens as the exposure of this number begins, or as the first step of this kind does. */
  readonly fault?: {
    readonly at?: number;
    readonly during?: StepKind;
    readonly fault: SiteFault;
    readonly forSec: number;
  };
  /** A person ends the night as the exposure of this number begins. */
  readonly stopAt?: number;
  /** Each rig has its own pointing error; its weather is clear. */
  readonly rigName?: string;
  /** What people have said, as it stands; changed by the test while the night goes on. */
  readonly orders?: StandingOrders;
  readonly carriedOut?: string[];
  /** Told what came of each test shot. */
  readonly shotEnded?: (end: TestShotEnd) => void;
  readonly planAgain?: NightHooks['planAgain'];
  /** Calibration that the night’s lights lack, each time it is asked for. */
  readonly missing?: (taken: readonly TakenCalibration[]) => readonly SetToTake[];
  readonly areGuideDarksDue?: boolean;
  /** Told each exposure that begins. */
  readonly onBegin?: (seq: number) => void;
  /** Told each report, with the rig's address. */
  readonly onReport?: (action: RunAction, baseUrl: string) => void;
  /** More than one: another runner had begun this night. */
  readonly fence?: number;
  /** Between two looks at a device passes as much time as at this speed. */
  readonly speed?: number;
}

/** A simulated observatory of its own, with a folder for frames. */
export async function openSite({ startUtcMs = START } = {}) {
  const folder = await mkdtemp(join(tmpdir(), 'frames-'));
  const app = Fastify({ forceCloseConnections: true });
  await app.register(observatoryRoutes, {
    realNowMs: () => performance.now(),
    startUtcMs: () => startUtcMs,
    stars: () => [],
  });
  await app.listen({ host: '127.0.0.1', port: 0 });
  const origin = `http://127.0.0.1:${(app.server.address() as AddressInfo).port}`;
  const close = async (): Promise<void> => {
    await app.close();
    await rm(folder, { recursive: true });
  };
  const runOf = (steps: readonly RunStep[], how: How = {}) => claimedRun({ origin, startUtcMs }, steps, how);
  return {
    folder,
    close,
    runOf,
    play: (steps: readonly RunStep[], how?: How) => playOn({ origin, folder, startUtcMs }, steps, how),
  };
}
export type TestSite = Awaited<ReturnType<typeof openSite>>;

interface Place {
  readonly origin: string;
  readonly folder: string;
  /** When its simulated time begins. */
  readonly startUtcMs: number;
}

function claimedRun(
  { origin, startUtcMs }: Pick<Place, 'origin' | 'startUtcMs'>,
  steps: readonly RunStep[],
  { devices = {}, rigName = 'one', speed = FREE_SPEED, fence = 1 }: How,
): ClaimedRun {
  const name = clearName(rigName, startUtcMs);
  return {
    id: 'run', fence, speed, leaseSec: null, nightDate: '2026-12-08', rehearsal: false,
    rig: { id: name, name: 'Wren', imageScaleArcsec: 3.5 },
    deviceRun: deviceRun(`${origin}/rigs/${name}`, devices), steps: [...steps],
  } as ClaimedRun; // prettier-ignore
}

async function playOn(
  { origin, folder, startUtcMs }: Place,
  steps: readonly RunStep[],
  {
    devices = {},
    fault,
    stopAt,
    rigName = 'one',
    speed = FREE_SPEED,
    fence,
    onReport,
    onBegin,
    orders,
    carriedOut,
    shotEnded,
    planAgain,
    missing,
    areGuideDarksDue = false,
  }: How = {},
): Promise<Played> {
  const run = claimedRun({ origin, startUtcMs }, steps, { devices, rigName, speed, fence });
  const { baseUrl } = run.deviceRun!;
  const actions: RunAction[] = [];
  const outcomes = new Map<number, ExposureOutcome>();
  const calibration: TakenCalibration[] = [];
  let [isStopped, isBroken] = [false, false];
  let endFault: (() => void) | null = null;
  let faultEndsUtcMs = Number.POSITIVE_INFINITY;
  const breakIt = (utcMs: number): void => {
    if (isBroken) return;
    isBroken = true;
    if (fault!.fault === 'disk full') {
      endFault = fillDisk(folder);
      faultEndsUtcMs = utcMs + 1000 * fault!.forSec;
      return;
    }
    void fetch(`${baseUrl}/faults`, {
      method: 'PUT',
      body: JSON.stringify(fault),
      headers: { 'content-type': 'application/json' },
    });
  };
  const endIt = (): void => {
    endFault?.();
    endFault = null;
  };
  let lastUtcMs = START;
  const reports = keptReports(folder, run.rig.id, () => undefined);
  const end = await runDeviceNight(run, {
    framesFolder: folder,
    sleep: (ms) => new Promise((resolve) => setTimeout(resolve, ms)),
    report: (action) => {
      actions.push(action);
      onReport?.(action, baseUrl);
      lastUtcMs = action.endUtcMs ?? action.startUtcMs;
      if (lastUtcMs > faultEndsUtcMs) endIt();
      if (fault?.during === action.kind && action.outcome === null) breakIt(lastUtcMs);
    },
    isStopped: () => isStopped,
    ...(orders ? { standing: () => orders } : {}),
    carriedOut: (id) => void carriedOut?.push(id),
    ...(shotEnded ? { shotEnded } : {}),
    ...(planAgain ? { planAgain } : {}),
    ...(missing ? { calibrationToTake: async () => ({ sets: [...missing(calibration)], areGuideDarksDue }) } : {}),
    keepCalibration: (taken, frame) => {
      calibration.push(taken);
      reports.keep({ what: 'calibration', taken, frame });
    },
    begin: ({ seq }) => {
      onBegin?.(seq);
      if (stopAt === seq) isStopped = true;
      if (fault?.at === seq) breakIt(lastUtcMs);
    },
    finish: ({ id: stepId, seq }, outcome) => {
      outcomes.set(seq, outcome);
      const { frame, ...told } = outcome;
      reports.keep({ what: 'finish', outcome: { stepId, ...told }, frame });
    },
  });
  endIt();
  const truth = (await (await fetch(`${baseUrl}/truth`)).json()) as Played['truth'];
  return { end, actions, outcomes, calibration, truth };
}

export const violations = ({ truth }: Played): string[] =>
  truth.entries.filter((entry) => entry.isViolation).map(({ what }) => what);
export const kinds = ({ actions }: Played): string[] =>
  actions.filter(({ outcome }) => outcome === 'done').map(({ kind }) => kind);
/** Every step that was begun has an outcome. */
export const open = ({ actions }: Played): string[] => {
  const ended = new Set(actions.filter(({ outcome }) => outcome).map(({ id }) => id));
  return actions.filter(({ id }) => !ended.has(id)).map(({ kind, words }) => `${kind} ${words}`);
};
/** What did not come off, with why. */
export const wentWrong = ({ actions }: Played): string[] =>
  actions.flatMap(({ kind, outcome, remark }) => (outcome === 'failed' ? [`${kind}: ${remark}`] : []));
/** What happened, a line a step, in seconds from the plan's beginning: for whoever reads a test that fails. */
export const story = ({ actions }: Played): string =>
  actions
    .filter(({ outcome }) => outcome !== null)
    .map(({ startUtcMs, endUtcMs, kind, words, outcome, remark }) =>
      [`${Math.round((startUtcMs - START) / 1000)}–${Math.round((endUtcMs! - START) / 1000)}`, kind, words, outcome, remark ?? ''].join(' '),
    )
    .join('\n'); // prettier-ignore
