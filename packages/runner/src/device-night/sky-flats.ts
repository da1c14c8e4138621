// Flats of the twilit sky: away from the Sun, filter by filter as the light allows, each a little aside of the one before, so that no
// star stays where it is. At dusk before the night, at dawn after it.
import type { DeviceRun, SetToTake } from '@meridiem/contract';
import type { Interval, SkyPosition } from '@meridiem/core';
import { HOUR_MS, luminaryDirection, positionAt, sunPassage } from '@meridiem/core';
import { DeviceError } from '@meridiem/devices';
import { slewTo } from './at-target.ts';
import { exposed, keep, levelOf, roundedSec, setUpFor, wordsOf } from './calibration-exposure.ts';
import { endsTheNight } from './context.ts';
import { Interrupted, StepFailed } from './journal.ts';
import type { Night } from './night-waits.ts';
import { close, secondsUntil, waitUntil } from './night-waits.ts';
import { onceTheyAnswer, openSite } from './site-acts.ts';

export type Twilight = 'dusk' | 'dawn';

/** Below it only stars are left. */
const LOWEST_SUN_DEG = -10;
/** Where the twilit sky is most even: far up, away from the Sun. Source: Chromey & Hasselbacher 1996, PASP 108, 944. */
const EVEN_SKY_ALTITUDE_DEG = 75;
const [SHORTEST_SEC, LONGEST_SEC] = [0.5, 60];
/** The sky goes on changing while it is exposed: a flat counts within this share of its level. */
const NEAR_SHARE = 0.4;
const MOST_STEP = 8;
/** Until the sky has changed. */
const PAUSE_SEC = 20;
const ASIDE_DEG = 1 / 60;
const OPENING_SEC = 240;
/** Longer waits are spent closed. */
const LONG_WAIT_SEC = 900;

/** When flats of the sky are taken; null where they never are, or the sun does not pass there. */
export function skyFlatSpan(
  { site, endUtcMs, nightRules: { skyFlatsLongestMin, skyFlatsHighestSunDeg } }: DeviceRun,
  twilight: Twilight,
): Interval | null {
  if (skyFlatsLongestMin === 0) return null;
  const night = { startUtcMs: endUtcMs - 16 * HOUR_MS, endUtcMs: endUtcMs + 6 * HOUR_MS };
  const at = (sunDeg: number): number | null => sunPassage(site, night, sunDeg)[`${twilight}UtcMs`];
  const [bright, dim] = [at(skyFlatsHighestSunDeg), at(LOWEST_SUN_DEG)];
  if (bright === null || dim === null) return null;
  const [startUtcMs, last] = twilight === 'dusk' ? [bright, dim] : [dim, bright];
  return { startUtcMs, endUtcMs: Math.min(last, startUtcMs + 60_000 * skyFlatsLongestMin) };
}

/** The flats that lights lack, in one twilight. What fails, or a sky that is unsafe, ends them and no more.
 * @throws Interrupted where the night ends */
export async function takeSkyFlats(night: Night, twilight: Twilight): Promise<void> {
  const { context, hooks } = night;
  const span = skyFlatSpan(context.deviceRun, twilight);
  if (!span || endsTheNight(hooks.interruption()) || (await secondsUntil(context, span.endUtcMs)) < 0) return;
  const { wheel } = context.deviceRun;
  const isFitted = ({ filterLetter }: SetToTake): boolean => wheel.some(({ letter }) => letter === filterLetter);
  const sets = (await hooks.calibrationToTake())?.sets ?? [];
  const flats = sets.filter((set) => set.kind === 'flat' && isFitted(set));
  if (flats.length === 0) return;
  try {
    await waitInside(night, span.startUtcMs - 1000 * OPENING_SEC);
    night.site.isOpen = true;
    await onceTheyAnswer(context, openSite);
    await waitUntil(night, span.startUtcMs);
    const place = await evenSky(night);
    for (const set of inLight(flats, context.deviceRun, twilight)) await takeOfSky(night, { set, place, twilight, endUtcMs: span.endUtcMs }); // prettier-ignore
  } catch (error) {
    if (error instanceof Interrupted ? endsTheNight(error.reason) : !(error instanceof StepFailed || error instanceof DeviceError)) throw error; // prettier-ignore
    await context.journal.note(`No more flats of the sky: ${(error as Error).message}`);
    if (!context.safetyWatch.isSafe) await close(night);
  }
}

async function waitInside(night: Night, utcMs: number): Promise<void> {
  if (night.site.isOpen && (await secondsUntil(night.context, utcMs)) > LONG_WAIT_SEC) await close(night);
  await waitUntil(night, utcMs);
}

async function evenSky({ context: { clock, deviceRun } }: Night): Promise<SkyPosition> {
  const utcMs = await clock.nowUtcMs();
  const { azimuthDeg } = luminaryDirection(deviceRun.site, 'sun', utcMs);
  const direction = { altitudeDeg: EVEN_SKY_ALTITUDE_DEG, azimuthDeg: (azimuthDeg + 180) % 360 };
  return positionAt(deviceRun.site, direction, utcMs);
}

/** At dusk what wants most light comes first, at dawn last. */
function inLight(flats: readonly SetToTake[], { wheel }: DeviceRun, twilight: Twilight): SetToTake[] {
  const widthNm = ({ filterLetter }: SetToTake): number => wheel.find(({ letter }) => letter === filterLetter)?.widthNm ?? 0; // prettier-ignore
  const sign = twilight === 'dusk' ? 1 : -1;
  return flats.toSorted((a, b) => sign * (widthNm(a) - widthNm(b)));
}

interface OfSky {
  readonly set: SetToTake;
  readonly place: SkyPosition;
  readonly twilight: Twilight;
  readonly endUtcMs: number;
}

/** Exposed by the level of the one before; what is too bright at dusk, or too dim at dawn, is waited for, and the other way round it is
 * over for this filter. */
async function takeOfSky(night: Night, { set, place, twilight, endUtcMs }: OfSky): Promise<void> {
  const { context, hooks } = night;
  const levelShare = context.rules.flatLevelPercent / 100;
  await setUpFor(context, set);
  let exposureSec = roundedSec(Math.min(LONGEST_SEC, Math.max(SHORTEST_SEC, set.exposureSec)));
  for (let [taken, tries] = [0, 0]; taken < set.count; tries++) {
    if ((await secondsUntil(context, endUtcMs)) < exposureSec || endsTheNight(hooks.interruption())) return;
    if (!(await context.safetyWatch.ask())) throw new Interrupted('unsafe');
    const aside = { raDeg: place.raDeg, decDeg: place.decDeg + ASIDE_DEG * (tries % 5) };
    await slewTo(context, aside, `for flats of the sky in ${set.filterLetter}`, { sunBelowDeg: 0 });
    const one = { ...set, exposureSec };
    const picture = await exposed(context, one, 'sky flat', `${wordsOf(one)}, ${taken + 1} of ${set.count}`);
    const ratio = levelShare / levelOf(picture);
    if (Math.abs(1 / ratio - 1) <= NEAR_SHARE) {
      await keep(context, hooks, one, picture);
      taken += 1;
    }
    const nextSec = exposureSec * Math.min(MOST_STEP, Math.max(1 / MOST_STEP, ratio));
    const isOver = twilight === 'dusk' ? nextSec > LONGEST_SEC : nextSec < SHORTEST_SEC;
    if (isOver) return;
    if (nextSec < SHORTEST_SEC || nextSec > LONGEST_SEC) await pause(night);
    exposureSec = roundedSec(Math.min(LONGEST_SEC, Math.max(SHORTEST_SEC, nextSec)));
  }
}

const pause = async (night: Night): Promise<void> =>
  waitUntil(night, (await night.context.clock.nowUtcMs()) + 1000 * PAUSE_SEC);
