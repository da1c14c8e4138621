// At a target: there, centred, turned, in focus and guided, each by the project's own switches.
import type { RunStep } from '@meridiem/contract';
import type { FocusFit, FocusPoint, SkyPosition } from '@meridiem/core';
import {
  angleApartDeg,
  angleBetweenDeg,
  cameraTurn,
  fitFocus,
  fitFocusArms,
  imageScaleArcsec,
  luminaryDirection,
  measurePicture,
  SUN_HARMLESS_DEG,
  toDate,
  unitVector,
} from '@meridiem/core';
import type { CameraPicture } from '@meridiem/devices';
import type { NightContext } from './context.ts';
import { StepFailed } from './journal.ts';
import { goingOn } from './site-acts.ts';

/** As far on both sides of the present place, in steps of the focus. */
const FOCUS_SPAN = 3;
const FOCUS_WORSE_SHARE = 1.15;

/** Slews in the mount's own equatorial system.
 * @param sunBelowDeg with the Sun higher it does not; a place known to lie away from the Sun may ask for less */
export async function slewTo(
  { journal, devices, deviceRun, clock }: NightContext,
  target: SkyPosition,
  words: string,
  { sunBelowDeg = SUN_HARMLESS_DEG } = {},
): Promise<void> {
  await journal.step('slew', words, async (until) => {
    const utcMs = await clock.nowUtcMs();
    if (luminaryDirection(deviceRun.site, 'sun', utcMs).altitudeDeg > sunBelowDeg)
      throw new Error('the Sun is too high for an open telescope to move');
    const system = await devices.mount.system();
    if (system === 'unknown') throw new Error('the mount does not say which coordinates it takes');
    await devices.mount.setTracking(true);
    await devices.mount.beginSlew(system === 'of date' ? toDate(target, utcMs) : target);
    await until(async () => !(await devices.mount.state()).isSlewing);
  });
}

/** A short picture for solving or focusing; it is kept nowhere. */
export async function shortPicture(
  { devices, journal }: NightContext,
  exposureSec: number,
  { gain, offset }: Pick<RunStep, 'gain' | 'offset'>,
  binning = 1,
): Promise<CameraPicture> {
  await devices.camera.set({ gain, offset, binning, region: null });
  return journal.step(
    'expose',
    `${exposureSec} s for this`,
    async (until) => {
      await devices.camera.beginExposure(exposureSec, true);
      await until(() => devices.camera.isImageReady(), { firstSec: exposureSec });
      return devices.camera.download();
    },
    exposureSec,
  );
}

interface Solved extends SkyPosition {
  readonly positionAngleDeg: number;
}

async function solve(context: NightContext, step: RunStep): Promise<Solved> {
  const { journal, devices, deviceRun } = context;
  const picture = await shortPicture(context, context.rules.solveExposureSec, step);
  return journal.step('solve', step.panelName, () =>
    devices.solver.solve(picture, {
      raDeg: step.raDeg,
      decDeg: step.decDeg,
      scaleArcsecPerPx: imageScaleArcsec({ ...deviceRun.optics, binning: 1 }),
    }),
  );
}

/** Turns the camera by motor, or says by how much a person would have to; then corrects the pointing until it is right.
 * @throws StepFailed where this stay can't be had tonight */
export async function centre(context: NightContext, step: RunStep): Promise<void> {
  const { journal, devices, deviceRun, rules } = context;
  let solved = await solve(context, step);
  if (angleApartDeg(solved.positionAngleDeg, step.positionAngleDeg) > deviceRun.angleToleranceDeg) {
    if (deviceRun.rotatorKind !== 'motor') throw new StepFailed('rotate', await turnByHandWords(context, solved, step));
    const turnDeg = step.positionAngleDeg - solved.positionAngleDeg;
    await journal.step('rotate', `by ${turnDeg.toFixed(1)}°`, async (until) => {
      await devices.rotator.beginMove((await devices.rotator.mechanicalDeg()) + turnDeg);
      await until(async () => !(await devices.rotator.isMoving()));
    });
    solved = await solve(context, step);
    if (angleApartDeg(solved.positionAngleDeg, step.positionAngleDeg) > deviceRun.angleToleranceDeg)
      throw new StepFailed('rotate', `the camera is still at ${solved.positionAngleDeg.toFixed(1)}° after turning`);
  }
  await journal.step('centre', step.panelName, async () => {
    const apart = arcsecBetween(solved, step);
    if (apart <= rules.centredWithinArcsec) return `${apart.toFixed(0)}″ off`;
    await correct(context, solved, step);
    solved = await solve(context, step);
    const left = arcsecBetween(solved, step);
    if (left > rules.centredWithinArcsec)
      throw new Error(`${apart.toFixed(0)}″ off, ${left.toFixed(0)}″ after correcting`);
    return `${apart.toFixed(0)}″ off, ${left.toFixed(0)}″ after correcting`;
  });
}

const arcsecBetween = (a: SkyPosition, b: SkyPosition): number => 3600 * angleBetweenDeg(unitVector(a), unitVector(b));

/** The mount is told where it is, and sent again. */
async function correct(context: NightContext, solved: SkyPosition, target: RunStep): Promise<void> {
  const { devices, clock } = context;
  const utcMs = await clock.nowUtcMs();
  const isOfDate = (await devices.mount.system()) === 'of date';
  await devices.mount.sync(isOfDate ? toDate(solved, utcMs) : solved);
  await slewTo(context, target, target.panelName);
}

async function turnByHandWords({ deviceRun, journal }: NightContext, solved: Solved, step: RunStep): Promise<string> {
  const { drawtubeMm, mirrors } = deviceRun;
  const turn = cameraTurn(solved.positionAngleDeg, step.positionAngleDeg, { drawtubeMm, mirrors })!;
  const along = turn.drawtubeMm === null ? '' : `, ${turn.drawtubeMm.toFixed(0)} mm along the drawtube`;
  const words = `${step.panelName} is left for tonight: the camera must be turned by ${turn.turnDeg.toFixed(1)}° ${turn.direction}${along}`;
  await journal.note(words);
  return words;
}

/** A way to the best place: how far apart the places are, as a share of the step set, and what is laid through their sizes. */
interface FocusMethod {
  readonly words: string;
  readonly stepShare: number;
  readonly fit: (points: readonly FocusPoint[]) => FocusFit;
}
const BY_CURVE: FocusMethod = { words: '', stepShare: 1, fit: fitFocus };
const BY_ARMS: FocusMethod = { words: ', by both arms at half the step', stepShare: 0.5, fit: fitFocusArms };

/** Star sizes on both sides, and their best place; tried by another method where the first has failed. Where there is none
 * the old place is kept. */
export async function focus(context: NightContext, step: RunStep): Promise<void> {
  try {
    await focusBy(BY_CURVE, context, step);
  } catch (error) {
    if (!(error instanceof StepFailed)) throw error;
    await focusBy(BY_ARMS, context, step).catch(goingOn);
  }
}

/** Without the present place, which is looked at first. */
function placesOf({ stepShare }: FocusMethod): number[] {
  const each = FOCUS_SPAN / stepShare;
  return Array.from({ length: 2 * each + 1 }, (_, i) => (i - each) * stepShare).filter((place) => place !== 0);
}

async function focusBy(method: FocusMethod, context: NightContext, step: RunStep): Promise<void> {
  const { journal, devices, rules } = context;
  const before = await devices.focuser.positionSteps();
  const sizeHere = async (): Promise<number | null> => {
    const picture = await shortPicture(context, rules.focusExposureSec, step);
    return measurePicture(picture).halfFluxRadiusPx;
  };
  await journal.step('focus', `${step.filterLetter}${method.words}`, async (until, keep) => {
    const move = async (steps: number): Promise<void> => {
      await devices.focuser.beginMove(Math.max(0, steps));
      await until(async () => !(await devices.focuser.isMoving()));
    };
    const here = await sizeHere();
    if (here === null) throw new Error('no stars are seen; the old place is kept');
    const points: FocusPoint[] = [{ positionSteps: before, halfFluxRadiusPx: here }];
    for (const place of placesOf(method)) {
      await move(Math.round(before + place * rules.focusStepSteps));
      const halfFluxRadiusPx = await sizeHere();
      if (halfFluxRadiusPx !== null)
        points.push({ positionSteps: await devices.focuser.positionSteps(), halfFluxRadiusPx });
    }
    const fit = method.fit(points);
    keep({ points, bestSteps: fit.isFound ? fit.bestSteps : null });
    if (!fit.isFound) {
      await move(before);
      throw new Error(`${fit.words}; the old place is kept`);
    }
    await move(fit.bestSteps);
    const size = await sizeHere();
    const smallest = Math.min(...points.map(({ halfFluxRadiusPx }) => halfFluxRadiusPx));
    if (size === null || size > FOCUS_WORSE_SHARE * smallest) {
      await move(before);
      throw new Error('stars were no smaller at the new place; the old one is kept');
    }
    return `${fit.bestSteps} steps, half-flux radius ${size.toFixed(2)} px, fit ${Math.round(100 * fit.fitShare)} %`;
  });
}

/** Guiding, and waiting until it is steady. */
export async function guide(context: NightContext, words: string): Promise<void> {
  const { journal, devices } = context;
  await journal.step('guide', words, async (until) => {
    await devices.guider.start();
    await until(async () => {
      const { state } = await devices.guider.state();
      if (state === 'lost') throw new Error('the guide star was lost');
      return state === 'guiding';
    });
  });
  await settle(context);
}

export async function settle({ journal, devices, rules }: NightContext): Promise<void> {
  await journal
    .step('settle', '', async (until) => {
      let rms: number | null = null;
      await until(async () => {
        rms = (await devices.guider.state()).rmsArcsec;
        return rms !== null && rms <= rules.guidingSteadyArcsec;
      });
      return `${(rms ?? 0).toFixed(2)}″`;
    })
    .catch(goingOn);
}
