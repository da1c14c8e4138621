// A month of exposures with known truth, for judging the judging: seeing, air, moon and a lasting change move the good ones too.
import type { JudgedExposure } from '../src/ledger/judging.ts';
import type { Random } from '../src/random.ts';
import { normalFrom, seededRandom } from '../src/random.ts';

export const FAULTS = ['cloud', 'focus', 'guiding', 'light'] as const;
export type Fault = (typeof FAULTS)[number];

export interface KnownExposure extends JudgedExposure {
  readonly goal: number;
  readonly fault: Fault | null;
}

const NIGHTS = 30;
const GOALS = 4;
const PER_NIGHT_AND_GOAL = 22;
/** On this night the seeing of another season sets in, for good. */
const CHANGE_NIGHT = 17;
const FAULT_SHARE = 0.19;

/** Exposures in the order they were taken: 30 nights, four goals, about a sixth of them spoiled, in stretches as faults come. */
export function simulatedMonth(seed: number): KnownExposure[] {
  const random = seededRandom(seed);
  const exposures: KnownExposure[] = [];
  for (let night = 0; night < NIGHTS; night++) {
    const seeing = (1 + 0.04 * normalFrom(random)) * (night >= CHANGE_NIGHT ? 1.3 : 1);
    const moonUp = Math.max(0, Math.sin(((night - 8) / 15) * Math.PI));
    for (let goal = 0; goal < GOALS; goal++) {
      let fault: Fault | null = null;
      for (let i = 0; i < PER_NIGHT_AND_GOAL; i++) {
        fault = nextFault(random, fault);
        const airmass = 1.02 + 0.9 * (Math.abs(i - 11) / 11) ** 2;
        const sky = airmass ** 0.6 + [3, 1, 0.5, 0.2][goal] * moonUp * (0.7 + 0.3 * Math.sin(i / 7));
        exposures.push(exposureOf(random, { night, goal, i, seeing, airmass, sky, fault }));
      }
    }
  }
  return exposures;
}

/** Faults last a few frames: a cloud passes, focus stays wrong until the next run. */
function nextFault(random: Random, before: Fault | null): Fault | null {
  if (before !== null && random() < 0.55) return before;
  return random() < FAULT_SHARE * 0.5 ? FAULTS[Math.floor(random() * FAULTS.length)] : null;
}

interface Circumstances {
  readonly night: number;
  readonly goal: number;
  readonly i: number;
  readonly seeing: number;
  readonly airmass: number;
  readonly sky: number;
  readonly fault: Fault | null;
}

function exposureOf(random: Random, at: Circumstances): KnownExposure {
  const noise = (share: number): number => 1 + share * normalFrom(random);
  const { fault, airmass, sky } = at;
  const transparency = 10 ** (-0.4 * 0.15 * (airmass - 1));
  const cloud = fault === 'cloud' ? 0.3 + 0.5 * random() : 0;
  const exposureSec = [120, 180, 300, 600][at.goal];
  const depth = (transparency * (1 - cloud) * Math.sqrt(exposureSec)) / Math.sqrt(sky);
  return {
    id: `${at.night}-${at.goal}-${at.i}`,
    goal: at.goal,
    fault,
    nightDate: `night ${at.night}`,
    exposureSec,
    airmass,
    transparency,
    // What is predicted differs a little from what is.
    skyRatio: sky * noise(0.02),
    starSizePx: 2.4 * at.seeing * airmass ** 0.6 * noise(0.025) * (fault === 'focus' ? 1.35 + 0.5 * random() : 1),
    starCount: Math.round([900, 500, 260, 150][at.goal] * (depth / 10) ** 0.875 * noise(0.04)),
    guidingArcsec: 0.62 * noise(0.09) * (fault === 'guiding' ? 1.8 + random() : 1),
    // As of frames whose pixels nobody measured.
    elongation: null,
    zeroPointMag: null,
    backgroundE:
      [3, 1.4, 0.5, 0.2][at.goal] *
      exposureSec *
      sky *
      noise(0.02) *
      (fault === 'light' ? 1.6 + random() : 1 + 0.4 * cloud),
  };
}
