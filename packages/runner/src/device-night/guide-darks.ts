// Darks of the guide camera, which the guider takes and keeps by itself: under the closed roof, where they have become old.
import { DeviceError } from '@meridiem/devices';
import type { NightContext, NightHooks } from './context.ts';
import { endsTheNight } from './context.ts';
import { goingOn } from './site-acts.ts';

/** What a guider needs beside the exposures themselves. */
const BESIDE_SEC = 60;

export async function takeGuideDarks({ rules, journal, devices }: NightContext, hooks: NightHooks): Promise<void> {
  const { guideDarksKeepDays, guideDarksSec, guideDarksCount } = rules;
  if (guideDarksKeepDays === 0 || endsTheNight(hooks.interruption())) return;
  if (!(await hooks.calibrationToTake())?.areGuideDarksDue) return;
  const lastsSec = guideDarksSec * guideDarksCount + BESIDE_SEC;
  await journal
    .step(
      'guide darks',
      `${guideDarksCount} × ${guideDarksSec} s`,
      async (until) => {
        await devices.guider.takeDarks({ exposureSec: guideDarksSec, count: guideDarksCount });
        await until(async () => (await devices.guider.state()).state !== 'taking darks');
      },
      lastsSec,
    )
    .catch(async (error: unknown) => {
      if (error instanceof DeviceError) return journal.note(`No darks of the guide camera: ${error.message}`);
      return goingOn(error);
    });
}
