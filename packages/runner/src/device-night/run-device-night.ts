// A claimed night with its devices: the simulated observatory built like the rig where it is one, safety watched, steps reported.
import type {
  ClaimedRun,
  DeviceRun,
  RunAction,
  RunStep,
  SiteReading,
  StandingOrders,
  TestShotEnd,
} from '@meridiem/contract';
import type { NightEnd } from '@meridiem/core';
import { exchangeJson } from '@meridiem/devices';
import type { ExposureOutcome, Interruption, NightHooks } from './context.ts';
import { deviceSet } from './device-set.ts';
import { playDeviceNight } from './device-night.ts';
import { handOrders } from './hand-orders.ts';
import { createJournal } from './journal.ts';
import { realClock, simulatedClock, simulatedUtcMs } from './night-clock.ts';
import { watchSafety } from './safety-watch.ts';
import { watchSite } from './site-watch.ts';
import { skyFlatSpan } from './sky-flats.ts';

export interface DeviceNightParts {
  readonly framesFolder: string;
  readonly sleep: (ms: number) => Promise<void>;
  /** The time at a real observatory; this machine's where it is left out. */
  readonly nowUtcMs?: () => number;
  readonly report: (action: RunAction) => void;
  /** Whether a person has asked for the end. */
  readonly isStopped: () => boolean;
  /** Whether the server has not been heard for so long that what is left of the lease is for closing. */
  readonly isUnheard?: () => boolean;
  /** What else people have said, as last heard. */
  readonly standing?: () => StandingOrders;
  readonly carriedOut?: (orderId: string) => void;
  /** Told what came of each test shot. */
  readonly shotEnded?: (end: TestShotEnd) => void;
  readonly planAgain?: NightHooks['planAgain'];
  readonly calibrationToTake?: NightHooks['calibrationToTake'];
  readonly keepCalibration?: NightHooks['keepCalibration'];
  /** Given what says how the site stands whenever it is asked; null where nothing new is known. */
  readonly reading?: (take: () => SiteReading | null) => void;
  readonly begin: (step: RunStep) => void;
  readonly finish: (step: RunStep, outcome: ExposureOutcome) => void;
}

/** A simulated night begins so long before its camera cools. */
const BEFORE_COOLING_SEC = 300;
const BUILD_TIMEOUT_MS = 10_000;

const NO_ORDERS: StandingOrders = { holdId: null, leaveId: null, isLast: false, testShot: null };

export async function runDeviceNight(run: ClaimedRun, parts: DeviceNightParts): Promise<NightEnd> {
  const deviceRun = run.deviceRun!;
  const { sleep, report, isStopped, begin, finish, framesFolder } = parts;
  const {
    standing = () => NO_ORDERS,
    carriedOut = () => undefined,
    shotEnded = () => undefined,
    planAgain = async () => null,
    calibrationToTake = async () => null,
    keepCalibration = () => undefined,
    reading = () => undefined,
  } = parts;
  if (deviceRun.isSimulated) await buildSimulated(run, deviceRun);
  const clock = deviceRun.isSimulated
    ? simulatedClock(deviceRun.baseUrl, run.speed)
    : realClock(sleep, parts.nowUtcMs ?? Date.now);
  const devices = deviceSet(deviceRun.baseUrl);
  const safetyWatch = await watchSafety(devices.safety, clock);
  const rules = deviceRun.nightRules;
  const siteWatch = watchSite({ devices, clock, safetyWatch, rules });
  const orders = handOrders(standing, carriedOut, shotEnded);
  const interruption = (): Interruption | null => {
    if (isStopped()) return 'stopped';
    if (parts.isUnheard?.()) return 'unheard';
    if (!safetyWatch.isSafe) return 'unsafe';
    if (siteWatch.pausedFor) return 'paused';
    return orders.isLeft ? 'left' : null;
  };
  const journal = createJournal(clock, { interruption }, report);
  let isOver = false;
  reading(() => (isOver ? null : siteWatch.takeReading()));
  try {
    const context = { run, deviceRun, devices, clock, journal, safetyWatch, siteWatch, rules, framesFolder };
    return await playDeviceNight(context, {
      interruption,
      orders,
      begin,
      finish,
      planAgain,
      calibrationToTake,
      keepCalibration,
    });
  } finally {
    isOver = true;
    await Promise.all([safetyWatch.stop(), siteWatch.stop()]);
  }
}

/** A simulated rig is built like the one it stands for; its clock is set before the first exposure, or goes on where a
 * night was interrupted. */
async function buildSimulated(run: ClaimedRun, deviceRun: DeviceRun): Promise<void> {
  const { site, optics, readNoiseE, ePerAdu, coolingBelowC, costs, mountLimitAfterSec, roofClears, wheel, baseUrl } =
    deviceRun;
  const { nightRules } = deviceRun;
  const ask = async (path: string, body: object): Promise<void> => {
    const answer = await exchangeJson(`${baseUrl}${path}`, 'PUT', body, AbortSignal.timeout(BUILD_TIMEOUT_MS));
    const said = await answer.text();
    if (!answer.isOk) throw new Error(`The simulated observatory answered ${answer.status}: ${said}`);
  };
  await ask('', {
    site,
    ...optics,
    readNoiseE,
    ePerAdu,
    coolingBelowC,
    slewDegPerSec: costs.slewDegPerSec,
    mountLimitAfterSec,
    park: deviceRun.park ?? { altitudeDeg: 10, azimuthDeg: site.latitudeDeg < 0 ? 180 : 0 },
    roofClears,
    filters: wheel.map(({ letter, widthNm, focusOffsetSteps }) => ({
      name: letter,
      widthNm,
      focusOffsetSteps: focusOffsetSteps ?? 0,
    })),
    ...(nightRules.flatPanelAltitudeDeg < 0
      ? {}
      : { flatPanel: { altitudeDeg: nightRules.flatPanelAltitudeDeg, azimuthDeg: nightRules.flatPanelAzimuthDeg } }),
    hasRotator: deviceRun.rotatorKind === 'motor',
    skyAngleDeg: deviceRun.skyAngleDeg ?? 0,
  });
  const [first] = run.steps;
  if (!first) return ask('/clock', { speed: run.speed, stands: true });
  const duskUtcMs = skyFlatSpan(deviceRun, 'dusk')?.startUtcMs ?? Number.POSITIVE_INFINITY;
  const coolsUtcMs = first.plannedStartUtcMs - 60_000 * nightRules.coolingLeadMin;
  const beginUtcMs = Math.min(duskUtcMs, coolsUtcMs) - 1000 * BEFORE_COOLING_SEC;
  const utcMs = await simulatedUtcMs(baseUrl);
  // Only a night that another runner had begun goes on by the clock as it is.
  const isUnderWay = run.fence > 1 && utcMs > beginUtcMs && utcMs < deviceRun.endUtcMs;
  await ask('/clock', { speed: run.speed, stands: true, ...(isUnderWay ? {} : { utcMs: beginUtcMs }) });
}
