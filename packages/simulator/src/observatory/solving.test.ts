// Pictures of the simulated observatory solved by their stars alone, held against where it really pointed: some in the usual tests,
// three hundred and twenty hopeless ones with --long.
import { fileURLToPath } from 'node:url';
import { describe, expect, it } from '@jest/globals';
import type { Random, SkyPosition, StarCatalogue, Solved } from '@meridiem/core';
import {
  angleBetweenDeg,
  FAINT_FROM_MAG,
  faintStarsAround,
  findStars,
  fromTangentPlane,
  plateToSky,
  seededRandom,
  skyBackground,
  solveField,
  unitVector,
} from '@meridiem/core';
import { loadSurveySky } from '../survey.ts';
import type { FrameOrder, LightFalling } from './render.ts';
import { renderFrame } from './render.ts';
import type { RigFacts } from './rig-facts.ts';

const IS_LONG = process.env.MERIDIEM_LONG === '1';
const FIELDS = IS_LONG ? 150 : 3;
const HOPELESS = IS_LONG ? 20 : 4;
const SEED = Number(process.env.MERIDIEM_SEED ?? 20);
const [WIDTH, HEIGHT] = [1600, 1200];
const TRUE_WITHIN_ARCSEC = 1;
const MEDIAN_MS = 1000;

/** The optics of the demo's two rigs. */
const RIGS = {
  wide: { focalLengthMm: 530, pixelUm: 9, apertureMm: 106 },
  long: { focalLengthMm: 1830, pixelUm: 7.4, apertureMm: 305 },
} as const;
type Rig = (typeof RIGS)[keyof typeof RIGS];
const scaleOf = ({ pixelUm, focalLengthMm }: Rig): number => (206.265 * pixelUm) / focalLengthMm;

const { stars: bright } = loadSurveySky(fileURLToPath(new URL('../../../server/catalogue', import.meta.url)));
const within = (stars: typeof bright, centre: SkyPosition, radiusDeg: number) => {
  const middle = unitVector(centre);
  return stars.filter(
    (star) =>
      Math.abs(star.decDeg - centre.decDeg) <= radiusDeg && angleBetweenDeg(middle, unitVector(star)) <= radiusDeg,
  );
};
const catalogue: StarCatalogue = (centre, radiusDeg, faintestMag) => [
  ...within(bright, centre, radiusDeg).filter(({ mag }) => mag <= faintestMag),
  ...(faintestMag > FAINT_FROM_MAG ? faintStarsAround(centre, radiusDeg, faintestMag) : []),
];

/** Seeing, focus, cloud, filter, length and sky as a night brings them. */
function pictureOf(
  rig: Rig,
  random: Random,
  pointing: SkyPosition,
  positionAngleDeg: number,
  more: Partial<LightFalling> = {},
) {
  const facts = { ...rig, widthPx: WIDTH, heightPx: HEIGHT, readNoiseE: 3, ePerAdu: 1 } as unknown as RigFacts;
  const light: LightFalling = {
    ...{ isOpen: true, pointing, positionAngleDeg, trailPx: 0, stars: within(bright, pointing, 2) },
    widthNm: 80 + 170 * random(),
    seeingArcsec: 1.6 + 2 * random(),
    defocusPx: random() < 0.3 ? 2 * random() : 0,
    transparency: 0.45 + 0.55 * random(),
    skyMagV: 19 + 2.5 * random(),
    ...more,
  };
  const order: FrameOrder = {
    ...{ exposureSec: 6 + 24 * random(), offset: 10, gain: 75, seed: Math.floor(1e6 * random()) },
    ...{ startX: 0, startY: 0, widthPx: WIDTH, heightPx: HEIGHT, binning: 1 },
  };
  const frame = renderFrame(facts, light, order);
  const stars = findStars(frame, skyBackground(frame));
  return { field: { widthPx: WIDTH, heightPx: HEIGHT, stars } };
}

const anywhere = (random: Random): SkyPosition => ({
  raDeg: 360 * random(),
  decDeg: (180 / Math.PI) * Math.asin(2 * random() - 1),
});
/** Up to five degrees away, in any direction. */
function offBy(random: Random, from: SkyPosition): SkyPosition {
  const [offDeg, direction] = [4.95 * Math.sqrt(random()), 2 * Math.PI * random()];
  return fromTangentPlane(from, { xDeg: offDeg * Math.cos(direction), yDeg: offDeg * Math.sin(direction) });
}
const arcsecApart = (a: SkyPosition, b: SkyPosition): number => 3600 * angleBetweenDeg(unitVector(a), unitVector(b));

/** Mean distance between where places of the picture look and where they are said to. */
function meanErrorArcsec(rig: Rig, solved: Solved, pointing: SkyPosition, positionAngleDeg: number): number {
  const [turn, degPerPx] = [(positionAngleDeg * Math.PI) / 180, scaleOf(rig) / 3600];
  const errors = [-0.4, 0, 0.4].flatMap((i) =>
    [-0.4, 0, 0.4].map((j) => {
      // Rows are counted from the top, and east is left.
      const [right, up] = [i * WIDTH * degPerPx, -j * HEIGHT * degPerPx];
      const truth = fromTangentPlane(pointing, {
        xDeg: -right * Math.cos(turn) + up * Math.sin(turn),
        yDeg: right * Math.sin(turn) + up * Math.cos(turn),
      });
      return arcsecApart(plateToSky(solved.plate, { x: i * WIDTH, y: j * HEIGHT }), truth);
    }),
  );
  return errors.reduce((sum, one) => sum + one, 0) / errors.length;
}

describe('pictures solved by their stars', () => {
  it.each(Object.keys(RIGS) as (keyof typeof RIGS)[])(
    'of the %s rig, begun up to five degrees off, are within an arcsecond of the truth',
    (name) => {
      const random = seededRandom(SEED);
      const rig = RIGS[name];
      const [errors, times, missed]: [number[], number[], string[]] = [[], [], []];
      for (let i = 0; i < FIELDS; i++) {
        const [pointing, positionAngleDeg] = [anywhere(random), 360 * random()];
        const { field } = pictureOf(rig, random, pointing, positionAngleDeg);
        const near = offBy(random, pointing);
        const startMs = performance.now();
        const solved = solveField(field, { near, radiusDeg: 5, scaleArcsecPerPx: scaleOf(rig) }, catalogue);
        times.push(performance.now() - startMs);
        if (solved.isSolved) errors.push(meanErrorArcsec(rig, solved, pointing, positionAngleDeg));
        else missed.push(`${field.stars.length} stars at ${pointing.decDeg.toFixed(0)}°: ${solved.words}`);
      }
      const median = (of: number[]): number => [...of].sort((a, b) => a - b)[of.length >> 1];
      if (IS_LONG)
        console.log(
          `${name}: ${errors.length} of ${FIELDS}, worst ${Math.max(...errors).toFixed(2)}″, median ${median(errors).toFixed(3)}″, ${median(times).toFixed(0)} ms, longest ${Math.max(...times).toFixed(0)} ms; ${missed.join('; ')}`,
        );
      // None wrong: what is said is true.
      expect(errors.filter((error) => !(error < TRUE_WITHIN_ARCSEC))).toEqual([]);
      expect(missed.length).toBeLessThanOrEqual(0.01 * FIELDS);
      if (IS_LONG) expect(median(times)).toBeLessThan(MEDIAN_MS);
    },
    600_000,
  );

  it('that show nothing of their field are refused', () => {
    const random = seededRandom(SEED + 1);
    const kinds: Partial<LightFalling>[] = [{ isOpen: false }, { transparency: 1e-5 }, { defocusPx: 60 }, {}];
    const words = Array.from({ length: HOPELESS }, (_, i) => {
      const rig = i % 2 ? RIGS.long : RIGS.wide;
      const pointing = anywhere(random);
      const kind = kinds[i % kinds.length];
      const { field } = pictureOf(rig, random, pointing, 360 * random(), kind);
      // The last kind is a good picture of quite another place.
      const near = kind === kinds[3] ? { raDeg: (pointing.raDeg + 180) % 360, decDeg: -pointing.decDeg } : pointing;
      const solved = solveField(field, { near, radiusDeg: 5, scaleArcsecPerPx: scaleOf(rig) }, catalogue);
      return solved.isSolved ? 'solved' : solved.words;
    });
    expect(words.filter((one) => one === 'solved')).toEqual([]);
  }, 600_000);
});
