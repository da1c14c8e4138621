// The light for flats: on while they are taken, off whatever has happened; and the exposure that brings the level that is wanted.
import type { CameraPicture } from '@meridiem/devices';
import { levelOf, roundedSec } from './calibration-exposure.ts';
import type { NightContext } from './context.ts';
import { goingOn } from './site-acts.ts';

/** Shorter exposures are uneven; then the light is dimmed. */
const SHORTEST_SEC = 0.5;
const LONGEST_SEC = 120;
/** Of the wanted level. */
const NEAR_SHARE = 0.1;
const MOST_TESTS = 8;
/** From one test to the next an exposure grows or shrinks no further: a level near nothing or full says little. */
const MOST_STEP = 8;

export interface FlatLight {
  /** @returns how bright it is now, of its most */
  readonly dim: (byShare: number) => Promise<number>;
}

/** @param use is given the light, on at its brightest; it is off afterwards, and once more where that was not to be had */
export async function withFlatLight(context: NightContext, use: (light: FlatLight) => Promise<void>): Promise<void> {
  const { journal, devices } = context;
  const { flatLight } = devices;
  let share = 1;
  let most = 0;
  const setTo = (brightness: number): Promise<void> =>
    journal.step('flat light', `on, ${Math.round((100 * brightness) / most)} %`, async (until) => {
      await flatLight.on(brightness);
      await until(async () => (await flatLight.state()) === 'ready');
    });
  const off = (): Promise<void> =>
    journal
      .step('flat light', 'off', async (until) => {
        await flatLight.off();
        await until(async () => (await flatLight.state()) === 'off');
      })
      .catch(goingOn);
  await flatLight.device.connect();
  most = await flatLight.mostBrightness();
  try {
    await setTo(most);
    await use({
      dim: async (byShare) => {
        share = Math.max(1 / most, share * byShare);
        await setTo(Math.max(1, Math.round(most * share)));
        return share;
      },
    });
  } finally {
    await off();
    if ((await flatLight.state().catch(() => 'error')) !== 'off') await off();
  }
}

/** A light that a process or a person before left on spoils the night; a rig that takes no flats has none. */
export async function flatLightOff({ journal, devices: { flatLight }, rules }: NightContext): Promise<void> {
  if (rules.flatsLongestMin === 0) return;
  const isOn = await flatLight.device
    .connect()
    .then(async () => (await flatLight.state()) !== 'off')
    .catch(() => false);
  if (isOn) await journal.step('flat light', 'off', () => flatLight.off()).catch(goingOn);
}

export interface FlatSearch {
  readonly firstSec: number;
  /** Of what a pixel can hold. */
  readonly levelShare: number;
  readonly light: FlatLight;
  /** One test; false where there is no time for it. */
  readonly expose: (sec: number) => Promise<CameraPicture | false>;
}

/** @returns the exposure in seconds; null where none was found, or no time was left */
export async function flatExposure({ firstSec, levelShare, light, expose }: FlatSearch): Promise<number | null> {
  let sec = roundedSec(Math.min(LONGEST_SEC, Math.max(SHORTEST_SEC, firstSec)));
  for (let test = 0; test < MOST_TESTS; test++) {
    const picture = await expose(sec);
    if (!picture) return null;
    const ratio = levelShare / levelOf(picture);
    if (Math.abs(ratio - 1) <= NEAR_SHARE) return sec;
    const wantedSec = sec * Math.min(MOST_STEP, Math.max(1 / MOST_STEP, ratio));
    if (wantedSec < SHORTEST_SEC) await light.dim(wantedSec / (2 * SHORTEST_SEC));
    if (wantedSec > LONGEST_SEC && sec >= LONGEST_SEC) return null;
    sec = roundedSec(wantedSec < SHORTEST_SEC ? 2 * SHORTEST_SEC : Math.min(LONGEST_SEC, wantedSec));
  }
  return null;
}
