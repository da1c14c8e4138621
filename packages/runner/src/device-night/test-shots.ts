// What people point at and photograph by hand while a night is held: through the limits of the night's own exposures, counted
// for nobody, and looked at rather than kept.
import type { TestShot, TestShotEnd } from '@meridiem/contract';
import { TEST_SHOT_PX } from '@meridiem/contract';
import type { PictureFigures, SkyPosition } from '@meridiem/core';
import {
  brightened,
  exposureGate,
  horizonProfile,
  measurePicture,
  partNamed,
  skyBackground,
  toJ2000,
} from '@meridiem/core';
import type { CameraPicture } from '@meridiem/devices';
import { shortPicture, slewTo } from './at-target.ts';
import type { NightContext } from './context.ts';
import { endsTheNight } from './context.ts';
import { setFilter } from './exposing.ts';
import type { HandOrders } from './hand-orders.ts';
import { Interrupted } from './journal.ts';
import { openSite } from './site-acts.ts';

/** Points and photographs as the standing order says, and says what came of it: nothing of it holds up the night.
 * @throws Interrupted where the night must end */
export async function answerTestShot(context: NightContext, orders: HandOrders): Promise<void> {
  const shot = orders.testShot!;
  const end = (outcome: TestShotEnd['outcome'], words: string, picture: TestShotEnd['picture'] = null): void =>
    orders.endTestShot({ shotId: shot.id, outcome, words, picture });
  try {
    const picture = await takeTestShot(context, shot);
    if (picture) end('done', figureWords(measurePicture(picture)), smallOf(picture));
    else end('done', 'pointed there');
  } catch (error) {
    end('refused', error instanceof Error ? error.message : String(error));
    if (error instanceof Interrupted && endsTheNight(error.reason)) throw error;
  } finally {
    // A held telescope stands still: nobody watches how far it would go.
    await context.devices.mount.setTracking(false).catch(() => undefined);
  }
}

/** @returns null where none was asked for */
async function takeTestShot(
  context: NightContext,
  { at, exposureSec, filterLetter, binning }: TestShot,
): Promise<CameraPicture | null> {
  const { devices, safetyWatch } = context;
  if (!(await safetyWatch.ask())) throw new Interrupted('unsafe');
  if (!at && (await devices.mount.state()).isParked)
    throw new Error('the telescope is parked: give a place to point at');
  await passGate(context, at ?? (await pointing(context)), exposureSec ?? 0);
  await openSite(context);
  if (at) await slewTo(context, at, 'by hand');
  else await devices.mount.setTracking(true);
  if (filterLetter) await setFilter(context, filterLetter);
  if (exposureSec === null) return null;
  const [step] = context.run.steps;
  return shortPicture(context, exposureSec, step, binning);
}

async function passGate({ deviceRun, clock }: NightContext, target: SkyPosition, exposureSec: number): Promise<void> {
  const { site, bounds, endUtcMs, horizon } = deviceRun;
  const setting = { site, bounds, endUtcMs, horizon: horizonProfile(horizon) };
  const gate = exposureGate(setting, target, await clock.nowUtcMs(), exposureSec);
  if (!gate.isOpen) throw new Error(gate.words);
}

async function pointing({ devices: { mount }, clock }: NightContext): Promise<SkyPosition> {
  const { raDeg, decDeg } = await mount.state();
  const isOfDate = (await mount.system()) === 'of date';
  return isOfDate ? toJ2000({ raDeg, decDeg }, await clock.nowUtcMs()) : { raDeg, decDeg };
}

const figureWords = ({ starCount, halfFluxRadiusPx }: PictureFigures): string =>
  halfFluxRadiusPx === null
    ? 'no stars are seen'
    : `${starCount} stars, half-flux radius ${halfFluxRadiusPx.toFixed(2)} px`;

function smallOf(picture: CameraPicture): NonNullable<TestShotEnd['picture']> {
  const whole = partNamed(picture, 'whole', TEST_SHOT_PX);
  const { widthPx, heightPx, levels } = brightened(picture, skyBackground(picture), whole, TEST_SHOT_PX);
  return { widthPx, heightPx, base64: Buffer.from(levels).toString('base64') };
}
