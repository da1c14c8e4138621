// After a night, under a roof that is confirmed closed: the flats, darks and bias that its lights lack, each within the rig's own limit
// of minutes.
import type { SetToTake } from '@meridiem/contract';
import { DeviceError } from '@meridiem/devices';
import { exposed, keep, setUpFor, wordsOf } from './calibration-exposure.ts';
import type { NightContext, NightHooks } from './context.ts';
import { endsTheNight } from './context.ts';
import { flatExposure, withFlatLight } from './flat-light.ts';
import { atFlatPanel } from './flat-panel.ts';
import { takeGuideDarks } from './guide-darks.ts';
import { StepFailed } from './journal.ts';
import { keepCold } from './site-acts.ts';

/** Flats by a light of the rig's own, then darks and bias, also those that the flats ask for, and the guide camera's darks. What fails
 * ends its kind and no more: the night has ended as it had. */
export async function takeCalibration(context: NightContext, hooks: NightHooks): Promise<void> {
  const { rules } = context;
  await within(context, hooks, { longestMin: rules.flatsLongestMin, what: 'flats' }, async (sets, isTime) => {
    const flats = sets.filter(({ kind }) => kind === 'flat');
    if (flats.length === 0) return;
    await atFlatPanel(context, () =>
      withFlatLight(context, (light) => takeFlats(context, hooks, flats, { light, isTime })),
    );
  });
  await within(context, hooks, { longestMin: rules.darksLongestMin, what: 'darks' }, async (sets, isTime) => {
    for (const set of sets.filter(({ kind }) => kind !== 'flat')) {
      if (set.sensorC !== null) await keepCold(context, set.sensorC);
      await takeSet(context, hooks, set, isTime);
    }
  });
  await takeGuideDarks(context, hooks);
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
  const wanted = await hooks.calibrationToTake();
  if (!wanted || wanted.sets.length === 0) return;
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
    await take(wanted.sets, isTime);
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
    await setUpFor(context, set);
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

async function takeSet(context: NightContext, hooks: NightHooks, set: SetToTake, isTime: IsTime): Promise<void> {
  for (let i = 1; i <= set.count; i++) {
    if (!(await isTime(set.exposureSec))) return;
    const picture = await exposed(context, set, set.kind === 'flat' ? 'flat' : 'dark', `${wordsOf(set)}, ${i} of ${set.count}`); // prettier-ignore
    await keep(context, hooks, set, picture);
  }
}
