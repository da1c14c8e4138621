// What is done to the site: connected, cooled, opened; and closed, whatever else has happened.
import type { StepMoment } from '@meridiem/core';
import { angleBetweenDeg, unitVector } from '@meridiem/core';
import type { NightContext } from './context.ts';
import { Interrupted, StepFailed } from './journal.ts';

const SITE_TOLERANCE_DEG = 0.01;
const CLOCK_TOLERANCE_SEC = 2;
/** A sensor this near to what was set is left to its regulation. */
const STILL_COLD_C = 2;
/** Devices that do not answer are waited for so long. */
const LONGEST_SILENCE_SEC = 1800;
/** Between two looks whether they do. */
const ANSWER_LOOK_SEC = 15;
/** Of the position that is read back, degrees. */
const PARKED_WITHIN_DEG = 1;

/** Connects every device, and lets nothing move where mount and observatory disagree about place or time. */
export async function connectDevices(context: NightContext): Promise<void> {
  const { journal, devices, deviceRun, clock } = context;
  let isLost = false;
  const { mount, camera, wheel, focuser, roof, safety, conditions } = devices;
  await journal.step('connect', 'all devices', async () => {
    const wasConnected = await mount.device.isConnected();
    // What closes the site comes first: a camera that does not answer keeps no roof open.
    for (const { device } of [mount, roof, safety, conditions, camera, wheel, focuser]) await device.connect();
    if (deviceRun.rotatorKind === 'motor') await devices.rotator.device.connect();
    const place = await mount.site();
    const apart = Math.max(
      Math.abs(place.latitudeDeg - deviceRun.site.latitudeDeg),
      Math.abs(place.longitudeDeg - deviceRun.site.longitudeDeg),
    );
    if (apart > SITE_TOLERANCE_DEG)
      throw new Error(`the mount’s own coordinates are ${apart.toFixed(3)}° from the site; set them`);
    const [before, told, after] = [await clock.nowUtcMs(), await mount.clockUtcMs(), await clock.nowUtcMs()];
    const early = Math.max(0, before - told, told - after) / 1000;
    if (early > CLOCK_TOLERANCE_SEC) throw new Error(`the mount’s clock is ${early.toFixed(0)} s off; set it`);
    // A picture begun before anyone minded the camera is nobody's.
    if ((await camera.activity()) !== 'idle') await camera.abort();
    isLost = !wasConnected && (await roof.state()) !== 'closed';
  });
  if (isLost) await findHome(context);
}

/** A mount that has lost its power does not know where it points: nothing moves over it before it has found its home.
 * @throws StepFailed where it can't */
const findHome = ({ journal, devices: { mount } }: NightContext): Promise<void> =>
  journal.step('home', '', async (until) => {
    if (!(await mount.canFindHome())) throw new Error('the mount has lost its power and can’t find its home by itself');
    if ((await mount.state()).isParked) await mount.unpark();
    await mount.findHome();
    await until(() => mount.isAtHome());
  });

/** Begins to cool; whether it was reached is said before the first exposure. */
export const beginCooling = ({ devices }: NightContext, targetC: number): Promise<void> =>
  devices.camera.setCooling(true, targetC);

export async function awaitCold({ journal, devices, rules }: NightContext, targetC: number): Promise<void> {
  await journal
    .step('cool', `to ${String(targetC).replace('-', '−')} °C`, async (until) => {
      await until(async () => Math.abs((await devices.camera.temperatureC()) - targetC) <= rules.cooledWithinC);
    })
    .catch(goingOn);
}

/** Waits until devices that were silent answer again, connected or not. @returns whether they do */
export async function awaitDevices(context: NightContext): Promise<boolean> {
  if (await allAnswer(context)) return true;
  return context.journal
    .step(
      'connect',
      'until the devices answer again',
      (until) => until(() => allAnswer(context), { everySec: ANSWER_LOOK_SEC }),
      LONGEST_SILENCE_SEC,
    )
    .then(
      () => true,
      () => false,
    );
}

const allAnswer = ({ devices: { mount, roof, camera } }: NightContext): Promise<boolean> =>
  Promise.all([mount, roof, camera].map(({ device }) => device.isConnected())).then(
    () => true,
    () => false,
  );

/** A camera that is no longer as cold as its exposures want, after a loss of power, is cooled again. */
export async function keepCold(context: NightContext, targetC: number): Promise<void> {
  if (Math.abs((await context.devices.camera.temperatureC()) - targetC) <= STILL_COLD_C) return;
  await beginCooling(context, targetC);
  await awaitCold(context, targetC);
}

/** After a loss of power: connected again, and the mount's place found, before anything else moves.
 * @throws StepFailed where nothing may move before a person has looked */
async function reconnect(context: NightContext): Promise<void> {
  const { devices, deviceRun } = context;
  if (await devices.mount.device.isConnected()) return;
  await connectDevices(context);
  if ((await devices.roof.state()) !== 'closed') return;
  if (!deviceRun.roofClears) throw new StepFailed('home', 'the mount has lost its power under a closed roof');
  await findHome(context);
}

/** Acts on the site; where its devices are silent, once more when they answer. */
export async function onceTheyAnswer(context: NightContext, act: (of: NightContext) => Promise<void>): Promise<void> {
  await act(context).catch(async (error: unknown) => {
    if (error instanceof Interrupted || (await allAnswer(context)) || !(await awaitDevices(context))) throw error;
    await act(context);
  });
}

/** Opens the roof where it is not open, and unparks. */
export async function openSite(context: NightContext): Promise<void> {
  const { journal, devices, safetyWatch, siteWatch } = context;
  await reconnect(context);
  if (!safetyWatch.isSafe) throw new Interrupted('unsafe');
  if (siteWatch.pausedFor) throw new Interrupted('paused');
  if ((await devices.roof.state()) !== 'open')
    await journal.step('open roof', '', async (until) => {
      await devices.roof.beginOpen();
      await until(async () => (await devices.roof.state()) === 'open');
    });
  if ((await devices.mount.state()).isParked)
    await journal.step('unstow', '', async (until) => {
      await devices.mount.unpark();
      await until(async () => !(await devices.mount.state()).isParked);
    });
}

/** Parks, confirmed by the position read back and not by the flag alone. */
export async function park(context: NightContext): Promise<void> {
  const { journal, devices, deviceRun } = context;
  await reconnect(context);
  await journal.step('stow', '', async (until) => {
    await devices.guider.stop().catch(() => undefined);
    await devices.camera.abort().catch(() => undefined);
    await devices.mount.abort().catch(() => undefined);
    await devices.mount.park();
    await until(async () => {
      const { isParked, isSlewing, altitudeDeg, azimuthDeg } = await devices.mount.state();
      return isParked && !isSlewing && isAt({ altitudeDeg, azimuthDeg }, deviceRun.park);
    });
  });
}

const isAt = (at: Direction, wanted: Direction | null): boolean =>
  wanted === null || angleBetweenDeg(vectorOf(at), vectorOf(wanted)) <= PARKED_WITHIN_DEG;
interface Direction {
  readonly altitudeDeg: number;
  readonly azimuthDeg: number;
}
const vectorOf = ({ altitudeDeg, azimuthDeg }: Direction) => unitVector({ raDeg: azimuthDeg, decDeg: altitudeDeg });

/** Closes, again and again where it can't be had: each try that fails calls for a person again.
 * @returns whether the roof is closed */
export async function closeAtLast(context: NightContext): Promise<boolean> {
  for (let attempt = 1; ; attempt++) {
    if (await closeSite(context).catch(() => false)) return true;
    if (attempt >= context.rules.closingTries) return false;
    await context.journal.step('wait', 'before closing is tried again', () =>
      context.clock.wait(60 * context.rules.closingPauseMin),
    );
  }
}

/** Parks and closes. Never over an unconfirmed position, unless the roof clears the telescope wherever it points.
 * @returns whether the roof is closed */
export async function closeSite(context: NightContext): Promise<boolean> {
  const { journal, devices, deviceRun } = context;
  const isParked = await park(context).then(
    () => true,
    () => false,
  );
  if (!isParked && !deviceRun.roofClears) {
    const isShut = (await devices.roof.state().catch(() => 'error')) === 'closed';
    await journal.call(
      isShut
        ? 'The roof is closed, but the mount under it is not parked. Someone must look.'
        : 'The mount could not be parked, so the roof stays as it is. Someone must go there.',
    );
    return isShut;
  }
  return journal
    .step('close roof', '', async (until) => {
      if ((await devices.roof.state()) === 'closed') return;
      await devices.roof.beginClose();
      await until(async () => (await devices.roof.state()) === 'closed');
    })
    .then(
      () => true,
      async () => {
        await journal.call('The roof could not be closed. Someone must go there.');
        return false;
      },
    );
}

export const warmUp = ({ journal, devices }: NightContext): Promise<void> =>
  journal.step('warm up', '', () => devices.camera.setCooling(false)).catch(goingOn);

/** What the rig's people have added for a moment, said in the log. */
export async function ownSteps({ journal, deviceRun }: NightContext, moment: StepMoment): Promise<void> {
  for (const step of deviceRun.ownSteps) if (step.moment === moment) await journal.note(step.words);
}

/** For steps whose failure is written down and changes nothing. */
export const goingOn = (error: unknown): void => {
  if (!(error instanceof StepFailed)) throw error;
};
