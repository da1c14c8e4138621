// Measured pictures against the truth and an independent program: npm run pixels [-- FOLDER]
// Sixty frames of the simulated observatory and twenty made by an independent library; needs Debian's python3-sep and python3-astropy.
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { MeasuredStar } from '../packages/core/src/index.ts';
import {
  DEFAULT_STAR_RULES,
  measurePicture,
  readFramePicture,
  seededRandom,
  pictureLight,
  sortedMedian,
  writeFits,
} from '../packages/core/src/index.ts';
import { renderFrame } from '../packages/simulator/src/observatory/render.ts';

interface TrueStar {
  readonly x: number;
  readonly y: number;
  readonly flux: number;
  readonly sigma: number;
  readonly beta: number | null;
  readonly sampled?: boolean;
}
interface Truth {
  readonly skyE: number;
  readonly gain: number;
  readonly offset: number;
  readonly readNoiseE: number;
  readonly trail: boolean;
  readonly stars: readonly TrueStar[];
}
interface Judged {
  readonly level: number;
  readonly seconds: number;
  readonly stars: readonly { readonly x: number; readonly y: number; readonly r: number }[];
  readonly trueRadii: readonly number[];
}

const SIMULATED = 60;
const LEAST_SNR = 7;
const EDGE_PX = DEFAULT_STAR_RULES.reachPx + 2;
const NEAR_PX = 2.5;
const FULL = 60_000;
const folder = process.argv[2] ?? mkdtempSync(join(tmpdir(), 'frames-'));
const judge = join(import.meta.dirname, 'pixel-frames.py');

/** A frame of the simulated observatory with stars at places known beforehand; its own invented faint stars are truth as well. */
function simulate(number: number): void {
  const random = seededRandom(500 + number);
  const [widthPx, heightPx] = number % 3 === 0 ? [1200, 800] : [1024, 700];
  const facts = { apertureMm: 200, focalLengthMm: 900, pixelUm: 3.76, widthPx, heightPx, readNoiseE: 1.5 + 4 * random(), ePerAdu: 0.7 + random() } as Parameters<typeof renderFrame>[0]; // prettier-ignore
  const scaleArcsec = (206.265 * facts.pixelUm) / facts.focalLengthMm;
  const sigma = 0.9 + 1.8 * random();
  const seeingArcsec = Math.sqrt(sigma ** 2 - 0.35 ** 2) * scaleArcsec * 2.3548;
  const pointing = { raDeg: 40, decDeg: 0 };
  const places = Array.from({ length: Math.round((widthPx * heightPx) / 8000) }, () => ({ x: 4 + random() * (widthPx - 8), y: 4 + random() * (heightPx - 8), mag: 9 + 6.3 * random() })); // prettier-ignore
  // On the tangent plane, which the renderer projects back to.
  const toSky = ({ x, y, mag }: (typeof places)[number]) => {
    const [xi, eta] = [
      ((widthPx / 2 - x) * scaleArcsec) / 206_264.806,
      ((heightPx / 2 - y) * scaleArcsec) / 206_264.806,
    ];
    const norm = Math.hypot(1, eta);
    const raDeg = pointing.raDeg + (Math.atan2(xi, 1) * 180) / Math.PI;
    const decDeg = (Math.atan2(eta * Math.cos(Math.atan2(xi, 1)), 1) * 180) / Math.PI;
    return { raDeg, decDeg, mag, norm };
  };
  const exposureSec = 30 + 200 * random();
  const light = { isOpen: true, pointing, positionAngleDeg: 0, widthNm: [90, 60, 6][number % 3], seeingArcsec, defocusPx: 0, trailPx: 0, transparency: 0.4 + 0.6 * random(), skyMagV: 17.5 + 3.5 * random(), stars: places.map(toSky) } as unknown as Parameters<typeof renderFrame>[1]; // prettier-ignore
  const order = { exposureSec, offset: 30, gain: 100, seed: number + 1, startX: 0, startY: 0, widthPx, heightPx, binning: 1 }; // prettier-ignore
  const { pixels } = renderFrame(facts, light, order);
  const area = Math.PI * (facts.apertureMm / 20) ** 2;
  const perMag0 = 10_000 * area * 0.5 * light.widthNm * exposureSec * light.transparency;
  const skyE = 10_000 * area * 0.5 * light.widthNm * exposureSec * 10 ** (-0.4 * light.skyMagV) * scaleArcsec ** 2;
  const truth: Truth = {
    skyE,
    gain: facts.ePerAdu,
    offset: 300,
    readNoiseE: facts.readNoiseE,
    trail: false,
    // The renderer samples a pixel's light in its middle, half a pixel on.
    stars: places.map(({ x, y, mag }) => ({ x: x - 0.5, y: y - 0.5, flux: perMag0 * 10 ** (-0.4 * mag), sigma, beta: null, sampled: true })), // prettier-ignore
  };
  const name = join(folder, `simulated-${String(number).padStart(2, '0')}`);
  writeFileSync(`${name}.fits`, writeFits({ widthPx, heightPx, pixels }, []));
  writeFileSync(`${name}.json`, JSON.stringify(truth));
}

interface Compared {
  readonly name: string;
  readonly wanted: number;
  readonly found: number;
  readonly detections: number;
  readonly falseOnes: number;
  readonly radii: readonly { readonly truth: number; readonly own: number; readonly theirs: number | null }[];
  readonly skyErrorE: number;
  readonly skyE: number;
  readonly standardErrorE: number;
  readonly sepErrorE: number;
  readonly trail: boolean;
  readonly trailsFound: number;
}

const nearest = <T extends { x: number; y: number }>(all: readonly T[], { x, y }: { x: number; y: number }): T | null =>
  all.reduce<T | null>((best, one) => (Math.hypot(one.x - x, one.y - y) < (best ? Math.hypot(best.x - x, best.y - y) : NEAR_PX) ? one : best), null); // prettier-ignore

async function compare(name: string): Promise<Compared> {
  const read = <T>(ending: string): T => JSON.parse(readFileSync(join(folder, name + ending), 'utf8')) as T;
  const [truth, judged] = [read<Truth>('.json'), read<Judged>('.sep.json')];
  const { picture } = await readFramePicture(readFileSync(join(folder, `${name}.fits`)));
  const { sky, stars: found, trails } = pictureLight(picture);
  const noiseE2 = truth.skyE + truth.readNoiseE ** 2;
  const snr = ({ flux, sigma }: TrueStar): number => flux / Math.sqrt(flux + 4 * Math.PI * sigma ** 2 * noiseE2);
  const isInside = ({ x, y }: TrueStar): boolean => x > EDGE_PX && y > EDGE_PX && x < picture.widthPx - EDGE_PX && y < picture.heightPx - EDGE_PX; // prettier-ignore
  const isAlone = (star: TrueStar): boolean =>
    truth.stars.every((other) => other === star || Math.hypot(other.x - star.x, other.y - star.y) > 14 * Math.max(1, star.sigma) || other.flux < 0.01 * star.flux); // prettier-ignore
  const isWhole = ({ flux, sigma }: TrueStar): boolean => flux / (2 * Math.PI * sigma ** 2) / truth.gain < FULL;
  const wanted = truth.stars.filter((star) => snr(star) >= LEAST_SNR && isInside(star) && isAlone(star) && isWhole(star)); // prettier-ignore
  const matched = wanted.map((star) => ({ star, own: nearest(found, star) }));
  const radii = matched.flatMap(({ star, own }) => {
    if (!own || snr(star) < 30) return [];
    return [{ truth: judged.trueRadii[truth.stars.indexOf(star)], own: own.halfFluxRadiusPx, theirs: nearest(judged.stars, star)?.r ?? null }]; // prettier-ignore
  });
  return {
    name,
    wanted: wanted.length,
    found: matched.filter(({ own }) => own).length,
    detections: found.length,
    // Invented faint stars are truth that isn't listed: what sep sees as well is none.
    falseOnes: found.filter((star: MeasuredStar) => !nearest(truth.stars, star) && !nearest(judged.stars, star)).length,
    radii,
    skyErrorE: (sky.level - truth.offset) * truth.gain - truth.skyE,
    skyE: truth.skyE,
    standardErrorE: (1.253 * Math.sqrt(noiseE2)) / Math.sqrt(picture.widthPx * picture.heightPx),
    sepErrorE: (judged.level - truth.offset) * truth.gain - truth.skyE,
    trail: truth.trail,
    trailsFound: trails.length,
  };
}

const median = (values: readonly number[]): number => sortedMedian(Float64Array.from(values));
const percent = (share: number): string => `${(100 * share).toFixed(1)} %`;

function report(title: string, frames: readonly Compared[]): void {
  const sum = (of: (one: Compared) => number): number => frames.reduce((total, one) => total + of(one), 0);
  console.log(`\n${title}: ${frames.length} frames, ${sum((one) => one.wanted)} stars alone with a signal of ${LEAST_SNR} times the noise`); // prettier-ignore
  console.log(`  found ${percent(sum((one) => one.found) / sum((one) => one.wanted))}; false ${percent(sum((one) => one.falseOnes) / sum((one) => one.detections))}`); // prettier-ignore
  const clean = frames.filter(({ trail }) => !trail);
  console.log(`  false without the frames that have a trail ${percent(clean.reduce((a, one) => a + one.falseOnes, 0) / clean.reduce((a, one) => a + one.detections, 0))}`); // prettier-ignore
  const crossed = frames.filter(({ trail }) => trail);
  console.log(`  trails found in ${crossed.filter(({ trailsFound }) => trailsFound > 0).length} of ${crossed.length} frames that have one, in ${clean.filter(({ trailsFound }) => trailsFound > 0).length} of the ${clean.length} others`); // prettier-ignore
  for (const [from, to] of [
    [0.9, 1.2],
    [1.2, 1.8],
    [1.8, 2.6],
    [2.6, 9],
  ]) {
    // prettier-ignore
    const medians = frames.flatMap(({ radii }) => {
      const own = radii.filter(({ truth }) => truth >= from && truth < to);
      return own.length < 5 ? [] : [{ own: median(own.map((one) => one.own / one.truth - 1)), theirs: median(own.flatMap(({ theirs, truth }) => (theirs ? [theirs / truth - 1] : []))) }]; // prettier-ignore
    });
    if (medians.length === 0) continue;
    const worst = (key: 'own' | 'theirs'): string => percent(medians.map((one) => one[key]).reduce((a, b) => (Math.abs(b) > Math.abs(a) ? b : a))); // prettier-ignore
    console.log(`  half-flux radius ${from} to ${to} px, ${medians.length} frames: median error ${percent(median(medians.map(({ own }) => own)))}, worst frame ${worst('own')} (sep ${percent(median(medians.map(({ theirs }) => theirs)))}, ${worst('theirs')})`); // prettier-ignore
  }
  const isWithin = ({ skyErrorE, skyE, standardErrorE }: Compared): boolean => Math.abs(skyErrorE) <= Math.max(0.01 * skyE, 3 * standardErrorE); // prettier-ignore
  const [dark, bright] = [frames.filter(({ skyE }) => skyE < 10), frames.filter(({ skyE }) => skyE >= 10)];
  const worstE = (of: readonly Compared[], key: 'skyErrorE' | 'sepErrorE'): string => Math.max(0, ...of.map((one) => Math.abs(one[key]))).toFixed(2); // prettier-ignore
  console.log(`  sky within 1 % or 3 standard errors: ${bright.filter(isWithin).length} of ${bright.length} with 10 e⁻ and more (worst ${percent(Math.max(...bright.map(({ skyErrorE, skyE }) => Math.abs(skyErrorE) / skyE)))}; sep ${percent(Math.max(...bright.map(({ sepErrorE, skyE }) => Math.abs(sepErrorE) / skyE)))}), ${dark.filter(isWithin).length} of ${dark.length} with less (worst ${worstE(dark, 'skyErrorE')} e⁻; sep ${worstE(dark, 'sepErrorE')} e⁻)`); // prettier-ignore
}

async function times(): Promise<void> {
  for (const [widthPx, heightPx] of [
    [1024, 1024],
    [4096, 4096],
  ]) {
    // prettier-ignore
    const facts = { apertureMm: 200, focalLengthMm: 900, pixelUm: 3.76, widthPx, heightPx, readNoiseE: 3, ePerAdu: 1 } as Parameters<typeof renderFrame>[0]; // prettier-ignore
    const random = seededRandom(5);
    const stars = Array.from({ length: (widthPx * heightPx) / 6000 }, () => ({ raDeg: 40 + (random() - 0.5) * (widthPx / 4200), decDeg: (random() - 0.5) * (heightPx / 4200), mag: 9 + 6 * random() })); // prettier-ignore
    const light = { isOpen: true, pointing: { raDeg: 40, decDeg: 0 }, positionAngleDeg: 0, widthNm: 90, seeingArcsec: 3, defocusPx: 0, trailPx: 0, transparency: 1, skyMagV: 20, stars } as unknown as Parameters<typeof renderFrame>[1]; // prettier-ignore
    const picture = renderFrame(facts, light, { exposureSec: 120, offset: 30, gain: 1, seed: 1, startX: 0, startY: 0, widthPx, heightPx, binning: 1 }); // prettier-ignore
    const pixels = Float32Array.from(picture.pixels);
    const runs = Array.from({ length: 5 }, () => {
      const started = performance.now();
      measurePicture({ widthPx, heightPx, pixels });
      return performance.now() - started;
    });
    const path = join(folder, 'time');
    writeFileSync(`${path}.fits`, writeFits(picture, []));
    writeFileSync(
      `${path}.json`,
      JSON.stringify({ skyE: 0, gain: 1, offset: 0, readNoiseE: 0, trail: false, stars: [] }),
    );
    execFileSync('/usr/bin/python3', [judge, 'judge', folder, 'time.fits']);
    const { seconds, stars: theirs } = JSON.parse(readFileSync(`${path}.sep.json`, 'utf8')) as Judged;
    console.log(`${widthPx} × ${heightPx}: ${Math.round(median(runs))} ms (median of 5, first ${Math.round(runs[0])}), ${measurePicture({ widthPx, heightPx, pixels }).starCount} stars; sep ${Math.round(1000 * seconds)} ms, ${theirs.length} stars`); // prettier-ignore
  }
}

for (let number = 0; number < SIMULATED; number++) simulate(number);
execFileSync('/usr/bin/python3', [judge, 'make', folder]);
execFileSync('/usr/bin/python3', [judge, 'judge', folder], { stdio: 'inherit' });
const names = readdirSync(folder).filter((name) => /^(simulated|made)-\d+\.fits$/.test(name)).map((name) => name.slice(0, -5)).sort(); // prettier-ignore
const compared: Compared[] = [];
for (const name of names) compared.push(await compare(name));
report(
  'Simulated',
  compared.filter(({ name }) => name.startsWith('simulated')),
);
report(
  'Made elsewhere',
  compared.filter(({ name }) => name.startsWith('made')),
);
if (process.env.MERIDIEM_VERBOSE) console.table(compared.map(({ radii, ...one }) => ({ ...one, radius: radii.length ? median(radii.map(({ own, truth }) => own / truth - 1)) : null }))); // prettier-ignore
await times();
