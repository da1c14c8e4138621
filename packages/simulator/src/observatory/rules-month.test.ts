// A month of rendered pictures, measured by their pixels and judged by the usual rules: what was spoiled is to be found, and what
// was not must stand. Seeing, air and moon move the good ones too. Whoever wrote the rules has tuned nothing on this month. With
// --long: 2,640 pictures take five minutes.
import { describe, expect, it } from '@jest/globals';
import type { JudgedExposure, Random, SkyPosition } from '@meridiem/core';
import { DEFAULT_RULES, faintStarsAround, figuresOf, findStars, judgeSequence, normalFrom, seededRandom, skyBackground, solveField, zeroPointOf } from '@meridiem/core'; // prettier-ignore
import type { CameraFrame, LightFalling } from './render.ts';
import { renderFrame } from './render.ts';
import type { RigFacts } from './rig-facts.ts';

const IS_LONG = process.env.MERIDIEM_LONG === '1';
const NIGHTS = 30;
const PER_NIGHT_AND_GOAL = 22;
const SEED = Number(process.env.MERIDIEM_SEED ?? 31);
/** From this night on the seeing of another season. */
const CHANGE_NIGHT = 17;
const FAULT_BEGINS = 0.09;
const FAULT_GOES_ON = 0.55;
/** Every spoiled exposure has lost at least this share of its signal rate: the squared light over sky and the area of a star. */
const [LEAST_LOSS, MOST_LOSS] = [0.15, 0.8];

const FAULTS = ['cloud', 'dew', 'focus', 'guiding', 'shaken', 'light'] as const;
type Fault = (typeof FAULTS)[number];

/** The demo's wide rig with a smaller sensor. */
const FACTS = {
  ...{ focalLengthMm: 530, pixelUm: 9, apertureMm: 106, widthPx: 640, heightPx: 480, readNoiseE: 2, ePerAdu: 1 },
} as unknown as RigFacts;
const SCALE_ARCSEC = (206.265 * FACTS.pixelUm) / FACTS.focalLengthMm;
const OFFSET = 10;

interface MonthGoal {
  readonly pointing: SkyPosition;
  readonly widthNm: number;
  readonly exposureSec: number;
  /** How much of the moon's light its band lets through. */
  readonly moon: number;
}
const GOALS: readonly MonthGoal[] = [
  { pointing: { raDeg: 84, decDeg: -2 }, widthNm: 260, exposureSec: 60, moon: 1 },
  { pointing: { raDeg: 283, decDeg: 33 }, widthNm: 95, exposureSec: 120, moon: 0.9 },
  { pointing: { raDeg: 266, decDeg: -29 }, widthNm: 95, exposureSec: 120, moon: 1.2 },
  { pointing: { raDeg: 202, decDeg: 47 }, widthNm: 6, exposureSec: 600, moon: 0.3 },
];

interface KnownExposure extends JudgedExposure {
  readonly fault: Fault | null;
  readonly lossShare: number;
}

/** As a file is measured: its stars, where they say that it points, and how much light of theirs arrives. */
function figuresOfFrame(picture: CameraFrame, { pointing, exposureSec }: MonthGoal) {
  const sky = skyBackground(picture);
  const stars = findStars(picture, sky);
  const hint = { near: pointing, radiusDeg: 1, scaleArcsecPerPx: SCALE_ARCSEC };
  const solved = solveField({ ...FACTS, stars }, hint, faintStarsAround);
  const known = solved.isSolved ? solved.matches.map(({ star, sky: { mag } }) => ({ ...stars[star], mag })) : [];
  return { ...figuresOf(sky, stars), zeroPointMag: zeroPointOf(known, exposureSec)?.mag ?? null };
}

/** Faults last a few exposures: a cloud passes, focus stays wrong until it is found again. */
function nextFault(random: Random, before: Fault | null): Fault | null {
  if (before !== null && random() < FAULT_GOES_ON) return before;
  return random() < FAULT_BEGINS ? FAULTS[Math.floor(random() * FAULTS.length)] : null;
}

/** What falls on the sensor where a fault costs a share of the signal rate. */
function spoiled(light: LightFalling, fault: Fault | null, lossShare: number, starPx: number): LightFalling {
  const left = 1 - lossShare;
  switch (fault) {
    case 'cloud':
    case 'dew':
      return { ...light, transparency: light.transparency * Math.sqrt(left) };
    case 'focus':
      return { ...light, defocusPx: 1.5 * starPx * Math.sqrt(1 / left - 1) };
    case 'guiding':
    case 'shaken':
      // A line as long as makes the area of a star so much larger.
      return { ...light, trailPx: 3.46 * starPx * Math.sqrt(1 / left ** 2 - 1) };
    case 'light':
      return { ...light, skyMagV: light.skyMagV + 2.5 * Math.log10(left) };
    default:
      return light;
  }
}

function month(goal: MonthGoal, goalNumber: number): KnownExposure[] {
  const random = seededRandom(SEED * 101 + goalNumber);
  const exposures: KnownExposure[] = [];
  for (let night = 0; night < NIGHTS; night++) {
    const seeing = 2.6 * (1 + 0.06 * normalFrom(random)) * (night >= CHANGE_NIGHT ? 1.3 : 1);
    const moonUp = Math.max(0, Math.sin(((night - 8) / 15) * Math.PI));
    let [fault, dewed]: [Fault | null, number] = [null, 0];
    for (let i = 0; i < PER_NIGHT_AND_GOAL; i++) {
      fault = nextFault(random, fault);
      dewed = fault === 'dew' ? Math.min(MOST_LOSS, Math.max(LEAST_LOSS, dewed + 0.1)) : 0;
      const lossShare = fault === null ? 0 : fault === 'dew' ? dewed : LEAST_LOSS + (MOST_LOSS - LEAST_LOSS) * random();
      const airmass = 1.02 + 0.9 * (Math.abs(i - 11) / 11) ** 2;
      const extinction = 10 ** (-0.4 * 0.15 * (airmass - 1));
      const skyRatio = airmass ** 0.6 + goal.moon * moonUp * (2 + 0.6 * Math.sin(i / 7));
      const seeingArcsec = seeing * airmass ** 0.6 * (1 + 0.03 * normalFrom(random));
      const starPx = Math.hypot(seeingArcsec / 3.5 / 2.3548, 0.35);
      const clear: LightFalling = {
        ...{ isOpen: true, pointing: goal.pointing, positionAngleDeg: 12, widthNm: goal.widthNm, stars: [] },
        ...{ seeingArcsec, defocusPx: 0.3 * random(), trailPx: 0.4 * random() },
        transparency: 0.9 * extinction * (1 + 0.012 * normalFrom(random)),
        skyMagV: 21.4 - 2.5 * Math.log10(skyRatio * (1 + 0.02 * normalFrom(random))),
      };
      const { exposureSec } = goal;
      const order = { exposureSec, offset: OFFSET, gain: 75, seed: Math.floor(1e6 * random()), startX: 0, startY: 0, widthPx: FACTS.widthPx, heightPx: FACTS.heightPx, binning: 1 }; // prettier-ignore
      const figures = figuresOfFrame(renderFrame(FACTS, spoiled(clear, fault, lossShare, starPx), order), goal);
      exposures.push({
        ...{ id: `${night}-${i}`, fault, lossShare, exposureSec, airmass, skyRatio, transparency: extinction },
        starSizePx: figures.halfFluxRadiusPx,
        starCount: figures.starCount,
        elongation: figures.elongation,
        ...{ nightDate: `night ${night}`, zeroPointMag: figures.zeroPointMag },
        backgroundE: Math.max(0, figures.background - 10 * OFFSET),
        // What shakes the tube and not the guide camera is not seen by guiding.
        guidingArcsec: 0.62 * (1 + 0.09 * normalFrom(random)) * (fault === 'guiding' ? 1 + 2 * lossShare : 1),
      });
    }
  }
  return exposures;
}

describe('a month of pictures', () => {
  (IS_LONG ? it : it.skip)(
    'has what was spoiled found by the rules, kind by kind, and its good ones left',
    () => {
      const [caught, all]: [Map<Fault, number>, Map<Fault, number>] = [new Map(), new Map()];
      const missed: number[] = [];
      let [good, dropped] = [0, 0];
      GOALS.forEach((goal, number) => {
        const exposures = month(goal, number);
        const verdicts = judgeSequence(exposures, DEFAULT_RULES);
        for (const { id, fault, lossShare } of exposures) {
          const isDropped = verdicts.get(id)?.verdict === 'rejected';
          if (fault === null) {
            good += 1;
            if (isDropped) dropped += 1;
          } else {
            all.set(fault, (all.get(fault) ?? 0) + 1);
            if (isDropped) caught.set(fault, (caught.get(fault) ?? 0) + 1);
            else missed.push(lossShare);
          }
        }
      });
      const bad = [...all.values()].reduce((sum, count) => sum + count, 0);
      const share = (fault: Fault): number => (caught.get(fault) ?? 0) / all.get(fault)!;
      const caughtShare = [...caught.values()].reduce((sum, count) => sum + count, 0) / bad;
      console.log(
        `${bad} spoiled, ${(100 * caughtShare).toFixed(1)} % caught (${FAULTS.map((fault) => `${fault} ${(100 * share(fault)).toFixed(0)} % of ${all.get(fault)}`).join(', ')}); missed with a loss of ${missed
          .map((loss) => Math.round(100 * loss))
          .toSorted((a, b) => a - b)
          .join(' ')} %; ${good} good, ${((100 * dropped) / good).toFixed(2)} % dropped`,
      );
      expect(dropped / good).toBeLessThanOrEqual(0.02);
      expect([bad >= 400, good >= 2000]).toEqual([true, true]);
      expect(caughtShare).toBeGreaterThanOrEqual(0.95);
      for (const fault of FAULTS) expect([fault, share(fault) >= 0.85]).toEqual([fault, true]);
    },
    900_000,
  );
});
