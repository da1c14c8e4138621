// One exposure: asked at the gate, begun, downloaded, measured, on disk; and what came of it.
import type { RunStep } from '@meridiem/contract';
import type { StepKind } from '@meridiem/core';
import { directionOf, exposureGate, horizonProfile, measurePicture, scatteringAirmass, wrap360 } from '@meridiem/core';
import { DeviceError } from '@meridiem/devices';
import type { ExposureOutcome, NightContext } from './context.ts';
import { storeFrame } from './frame-store.ts';
import type { DeviceSet } from './device-set.ts';
import type { Until } from './journal.ts';
import { Interrupted, StepFailed } from './journal.ts';

/** A night this far behind its plan is planned again. */
export const LATE_SEC = 600;
/** Where nobody plans it again an exposure this late is left out: what comes next has its own time. */
export const LATEST_SEC = 1500;

export const lost = (words: string): ExposureOutcome => ({ outcome: 'lost', words, exposure: null, frame: null });

/** Puts the right filter in front, and the focuser where it belongs behind it.
 * @returns whether the focus is to be found again: nobody has measured how far it lies from that of the filter before
 * @throws StepFailed where it is in no place of the wheel */
export async function setFilter(
  { journal, devices, deviceRun }: NightContext,
  letter: string,
  kind: Extract<StepKind, 'filter' | 'flat setting'> = 'filter',
): Promise<boolean> {
  const to = deviceRun.wheel.find((one) => one.letter === letter);
  if (!to) throw new StepFailed(kind, `${letter} is in no place of the wheel`);
  const { place } = to;
  const was = await devices.wheel.place();
  if (was === place) return false;
  const before = deviceRun.wheel.find((one) => one.place === was)?.focusOffsetSteps ?? null;
  const shiftSteps = before === null || to.focusOffsetSteps === null ? null : to.focusOffsetSteps - before;
  await journal.step(kind, kind === 'filter' ? letter : `filter ${letter}`, async (until) => {
    await devices.wheel.beginMove(place);
    await until(async () => (await devices.wheel.place()) === place);
    if (shiftSteps) await shiftFocus(devices, shiftSteps, until);
  });
  return shiftSteps === null;
}

/** By what the filter in front asks for; a focuser that fails costs sharpness and no stay. */
async function shiftFocus({ focuser }: DeviceSet, bySteps: number, until: Until): Promise<void> {
  try {
    await focuser.beginMove(Math.max(0, (await focuser.positionSteps()) + bySteps));
  } catch (error) {
    if (error instanceof DeviceError) return;
    throw error;
  }
  await until(async () => !(await focuser.isMoving()));
}

/** @param afterMove whether the mount has moved since the exposure before */
export async function takeExposure(context: NightContext, step: RunStep, afterMove: boolean): Promise<ExposureOutcome> {
  const { journal, devices, deviceRun, clock, run } = context;
  const { site, bounds, endUtcMs, ePerAdu } = deviceRun;
  const gate = exposureGate(
    { site, bounds, endUtcMs, horizon: horizonProfile(deviceRun.horizon) },
    step,
    await clock.nowUtcMs(),
    step.exposureSec,
  );
  if (!gate.isOpen) return lost(`Not begun: ${gate.words}`);
  if (!(await context.safetyWatch.ask())) throw new Interrupted('unsafe');
  const { gain, offset, binning, region, exposureSec } = step;
  await devices.camera.set({ gain, offset, binning, region });
  try {
    await journal.step(
      'expose',
      `${step.panelName}, ${step.filterLetter}, ${exposureSec} s`,
      async (until) => {
        await devices.camera.beginExposure(exposureSec, true);
        await until(() => devices.camera.isImageReady(), { firstSec: exposureSec });
      },
      exposureSec,
    );
  } catch (error) {
    if (error instanceof StepFailed) return lost(`The exposure failed: ${error.message}`);
    throw error;
  }
  const [guiding, conditions, mount] = await Promise.all([
    devices.guider.state().catch(() => null),
    devices.conditions.read().catch(() => null),
    devices.mount.state(),
  ]);
  const startUtcMs = await devices.camera.lastStartUtcMs();
  const sensorC = await devices.camera.temperatureC();
  const focusSteps = await devices.focuser.positionSteps().catch(() => null);
  const mechanicalAngleDeg = await mechanicalAngle(context);
  try {
    const { frame, figures } = await journal.step('download', step.panelName, async () => {
      const picture = await devices.camera.download();
      const figures = measurePicture(picture);
      const { altitudeDeg } = directionOf(site, step, startUtcMs);
      const airmass = scatteringAirmass(90 - altitudeDeg);
      const taken = { startUtcMs, exposureSec, sensorC, focusSteps, mechanicalAngleDeg, pierSide: mount.pierSide, airmass, figures }; // prettier-ignore
      return {
        frame: await storeFrame(
          context.framesFolder,
          { rig: run.rig, nightDate: run.nightDate, deviceRun },
          step,
          picture,
          taken,
        ),
        figures,
      };
    });
    return {
      outcome: 'done',
      words: `Taken: ${figures.starCount} stars`,
      frame: { part: frame.part, name: frame.name },
      exposure: {
        startUtcMs,
        exposureSec,
        gain,
        sensorC,
        halfFluxRadiusPx: figures.halfFluxRadiusPx,
        starCount: figures.starCount,
        guidingRmsArcsec: guiding?.rmsArcsec ?? null,
        backgroundE: Math.max(0, figures.background - 10 * offset) * ePerAdu,
        elongation: figures.elongation,
        temperatureC: conditions?.temperatureC ?? null,
        afterMove,
        mechanicalAngleDeg,
        rateMeasured: null,
        frame: { name: frame.name, sizeBytes: frame.sizeBytes, sha256: frame.sha256 },
      },
    };
  } catch (error) {
    if (error instanceof StepFailed) return lost(`No frame: ${error.message}`);
    throw error;
  }
}

/** Of the camera on the telescope where a motor turns it; not known where the rotator does not answer, and an exposure is not lost for it. */
export async function mechanicalAngle({ deviceRun, devices }: NightContext): Promise<number | undefined> {
  if (deviceRun.rotatorKind !== 'motor') return undefined;
  return devices.rotator.mechanicalDeg().then(wrap360, () => undefined);
}
