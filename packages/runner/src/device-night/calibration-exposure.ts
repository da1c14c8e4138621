// One calibration frame: set up, exposed, stored and reported, whatever light it is of.
import { randomUUID } from 'node:crypto';
import type { SetToTake, TakenCalibration } from '@meridiem/contract';
import type { StepKind } from '@meridiem/core';
import { wrap180 } from '@meridiem/core';
import type { CameraPicture } from '@meridiem/devices';
import type { FrameFile } from '../kept-reports.ts';
import type { NightContext, NightHooks } from './context.ts';
import { mechanicalAngle, setFilter } from './exposing.ts';
import { storeCalibration } from './frame-store.ts';

/** Within what any rig's flats tolerate. */
const LEAST_TURN_DEG = 0.5;

/** What a flat is taken through: dust and vignetting turn with the camera, so it stands as it did for their lights. */
export async function setUpFor(context: NightContext, { filterLetter, mechanicalAngleDeg }: SetToTake): Promise<void> {
  await turnTo(context, mechanicalAngleDeg);
  await setFilter(context, filterLetter!, 'flat setting');
}

async function turnTo({ deviceRun, devices, journal }: NightContext, angleDeg: number | null): Promise<void> {
  if (deviceRun.rotatorKind !== 'motor' || angleDeg === null) return;
  const turnDeg = wrap180(angleDeg - (await devices.rotator.mechanicalDeg()));
  if (Math.abs(turnDeg) < LEAST_TURN_DEG) return;
  await journal.step('flat setting', `camera to ${angleDeg.toFixed(1)}°`, async (until) => {
    await devices.rotator.beginMove(angleDeg);
    await until(async () => !(await devices.rotator.isMoving()));
  });
}

/** One picture; light reaches the sensor of a flat only. */
export const exposed = (
  { devices: { camera }, journal }: NightContext,
  { exposureSec, gain, offset, binning, region }: SetToTake,
  step: Extract<StepKind, 'flat' | 'sky flat' | 'dark'>,
  words: string,
): Promise<CameraPicture> =>
  journal.step(
    step,
    words,
    async (until) => {
      await camera.set({ gain, offset, binning, region });
      await camera.beginExposure(exposureSec, step !== 'dark');
      await until(() => camera.isImageReady(), { firstSec: exposureSec });
      return camera.download();
    },
    exposureSec,
  );

/** The picture just exposed, on disk and told of. */
export async function keep(
  context: NightContext,
  hooks: NightHooks,
  set: SetToTake,
  picture: CameraPicture,
): Promise<void> {
  const { run, deviceRun, framesFolder, devices } = context;
  const { kind, filterId, filterLetter, exposureSec, gain, offset, binning, region } = set;
  const [startUtcMs, sensorC] = [await devices.camera.lastStartUtcMs(), await devices.camera.temperatureC()];
  const mechanicalAngleDeg = await mechanicalAngle(context);
  const read = { kind, startUtcMs, exposureSec, gain, offset, binning, region, sensorC, mechanicalAngleDeg };
  const stored = await storeCalibration(framesFolder, { rig: run.rig, nightDate: run.nightDate, deviceRun }, { ...read, filterLetter }, picture); // prettier-ignore
  const { part, name, sizeBytes, sha256 } = stored;
  const taken: TakenCalibration = { ...read, id: randomUUID(), filterId, frame: { name, sizeBytes, sha256 } };
  const frame: FrameFile = { part, name };
  hooks.keepCalibration(taken, frame);
}

/** "flat in L, 2 s" */
export const wordsOf = ({ kind, exposureSec, sensorC, filterLetter }: SetToTake): string => {
  if (kind === 'bias') return 'bias';
  if (kind === 'flat') return `flat in ${filterLetter}, ${exposureSec} s`;
  return `dark, ${exposureSec} s at ${String(sensorC).replace('-', '−')} °C`;
};

const FULL = 65_535;

/** How bright a picture is in its middle, as a share of what a pixel can hold. */
export function levelOf({ pixels }: Pick<CameraPicture, 'pixels'>): number {
  const stride = Math.max(1, Math.floor(pixels.length / 10_000));
  const sample = pixels.filter((_, i) => i % stride === 0).sort();
  return Math.max(1, sample[Math.floor(sample.length / 2)]) / FULL;
}

/** As a camera takes it, and a name can hold it. */
export const roundedSec = (sec: number): number => Math.round(sec * 100) / 100;
