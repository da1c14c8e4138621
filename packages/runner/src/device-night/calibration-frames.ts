// After a night, under a roof that is confirmed closed: the flats, darks and bias that its lights lack, each within the rig's own limit
// of minutes.
import { randomUUID } from 'node:crypto';
import type { SetToTake, TakenCalibration } from '@meridiem/contract';
import type { CameraPicture } from '@meridiem/devices';
import { wrap180 } from '@meridiem/core';
import { DeviceError } from '@meridiem/devices';
import type { FrameFile } from '../kept-reports.ts';
import type { NightContext, NightHooks } from './context.ts';
import { endsTheNight } from './context.ts';
import { mechanicalAngle, setFilter } from './exposing.ts';
import { flatExposure, withFlatLight } from './flat-light.ts';
import { storeCalibration } from './frame-store.ts';
import { StepFailed } from './journal.ts';
import { keepCold } from './site-acts.ts';

/** Flats by a light of the rig's own, then darks and bias, also those that the flats ask for. What fails ends its kind and no more: the
 * night has ended as it had. */
export async function takeCalibration(context: NightContext, hooks: NightHooks): Promise<void> {
  const { rules } = context;
  await within(context, hooks, { longestMin: rules.flatsLongestMin, what: 'flats' }, async (sets, isTime) => {
    const flats = sets.filter(({ kind }) => kind === 'flat');
    if (flats.length > 0) await withFlatLight(context, (light) => takeFlats(context, hooks, flats, { light, isTime }));
  });
  await within(context, hooks, { longestMin: rules.darksLongestMin, what: 'darks' }, async (sets, isTime) => {
    for (const set of sets.filter(({ kind }) => kind !== 'flat')) {
      if (set.sensorC !== null) await keepCold(context, set.sensorC);
      await takeSet(context, hooks, set, isTime);
    }
  });
}

/** Whether there is time for an exposure of so many seconds. */
type IsTime = (exposureSec: number) => Promise<boolean>;
type Light = Parameters<Parameters<typeof withFlatLight>[1]>[0];

async function within(
  { clock, journal }: NightContext,
  hooks: NightHooks,
  { longestMin, what }: { readonly longestMin: number; readonly what: string },
  take: (sets: readonly SetToTake[], isTime: IsTime) => Promise<void>,
): Promise<void> {
  if (longestMin === 0 || endsTheNight(hooks.interruption())) return;
  const sets = await hooks.calibrationToTake();
  if (!sets || sets.length === 0) return;
  const endUtcMs = (await clock.nowUtcMs()) + 60_000 * longestMin;
  let isSaid = false;
  const isTime: IsTime = async (exposureSec) => {
    if (endsTheNight(hooks.interruption())) return false;
    if ((await clock.nowUtcMs()) + 1000 * exposureSec <= endUtcMs) return true;
    if (!isSaid) await journal.note(`The time for ${what} is over; the rest waits for another night`);
    isSaid = true;
    return false;
  };
  try {
    await take(sets, isTime);
  } catch (error) {
    if (!(error instanceof StepFailed || error instanceof DeviceError)) throw error;
    await journal.note(`No more ${what}: ${error.message}`);
  }
}

async function takeFlats(
  context: NightContext,
  hooks: NightHooks,
  flats: readonly SetToTake[],
  { light, isTime }: { readonly light: Light; readonly isTime: IsTime },
): Promise<void> {
  for (const set of flats) {
    await turnTo(context, set.mechanicalAngleDeg);
    await setFilter(context, set.filterLetter!);
    const exposureSec = await flatExposure({
      firstSec: set.exposureSec,
      levelShare: context.rules.flatLevelPercent / 100,
      light,
      expose: async (sec) => (await isTime(sec)) && exposed(context, { ...set, exposureSec: sec }, 'flat', `test of a flat in ${set.filterLetter}, ${sec} s`), // prettier-ignore
    });
    if (exposureSec === null)
      await context.journal.note(`No flats in ${set.filterLetter}: no exposure brings the level that is wanted`); // prettier-ignore
    else await takeSet(context, hooks, { ...set, exposureSec }, isTime);
  }
}

/** Dust and vignetting turn with the camera: flats are taken at the angle of their lights. */
async function turnTo({ deviceRun, devices, journal }: NightContext, angleDeg: number | null): Promise<void> {
  if (deviceRun.rotatorKind !== 'motor' || angleDeg === null) return;
  const turnDeg = wrap180(angleDeg - (await devices.rotator.mechanicalDeg()));
  if (Math.abs(turnDeg) < LEAST_TURN_DEG) return;
  await journal.step('rotate', `to ${angleDeg.toFixed(1)}°, for flats`, async (until) => {
    await devices.rotator.beginMove(angleDeg);
    await until(async () => !(await devices.rotator.isMoving()));
  });
}
/** Within what any rig's flats tolerate. */
const LEAST_TURN_DEG = 0.5;

async function takeSet(context: NightContext, hooks: NightHooks, set: SetToTake, isTime: IsTime): Promise<void> {
  const { run, deviceRun, framesFolder, devices } = context;
  const { kind, filterId, filterLetter, exposureSec, gain, offset, binning, region } = set;
  for (let i = 1; i <= set.count; i++) {
    if (!(await isTime(exposureSec))) return;
    const picture = await exposed(
      context,
      set,
      kind === 'flat' ? 'flat' : 'dark',
      `${wordsOf(set)}, ${i} of ${set.count}`,
    );
    const [startUtcMs, sensorC] = [await devices.camera.lastStartUtcMs(), await devices.camera.temperatureC()];
    const mechanicalAngleDeg = await mechanicalAngle(context);
    const read = { kind, startUtcMs, exposureSec, gain, offset, binning, region, sensorC, mechanicalAngleDeg };
    const stored = await storeCalibration(framesFolder, { rig: run.rig, nightDate: run.nightDate, deviceRun }, { ...read, filterLetter }, picture); // prettier-ignore
    const { part, name, sizeBytes, sha256 } = stored;
    const taken: TakenCalibration = { ...read, id: randomUUID(), filterId, frame: { name, sizeBytes, sha256 } };
    const frame: FrameFile = { part, name };
    hooks.keepCalibration(taken, frame);
  }
}

const wordsOf = ({ kind, exposureSec, sensorC, filterLetter }: SetToTake): string => {
  if (kind === 'bias') return 'bias';
  if (kind === 'flat') return `flat in ${filterLetter}, ${exposureSec} s`;
  return `dark, ${exposureSec} s at ${String(sensorC).replace('-', '−')} °C`;
};

/** One picture; light reaches the sensor of a flat only. */
const exposed = (
  { devices: { camera }, journal }: NightContext,
  { exposureSec, gain, offset, binning, region }: SetToTake,
  step: 'flat' | 'dark',
  words: string,
): Promise<CameraPicture> =>
  journal.step(
    step,
    words,
    async (until) => {
      await camera.set({ gain, offset, binning, region });
      await camera.beginExposure(exposureSec, step === 'flat');
      await until(() => camera.isImageReady(), { firstSec: exposureSec });
      return camera.download();
    },
    exposureSec,
  );
