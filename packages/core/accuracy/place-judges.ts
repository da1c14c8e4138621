// Judges of places: images on the sky, mosaics, and what moves.
import type { SensorOnSky } from '../src/framing/sensor.ts';
import { mosaicOf } from '../src/framing/mosaic.ts';
import { pixelToSky, skyToPixel } from '../src/framing/sensor.ts';
import { angleBetweenDeg, unitVector } from '../src/sky/frame-of-date.ts';
import type { SkyPosition } from '../src/sky/site.ts';
import { movingPlace, movingRate } from '../src/targets/orbits.ts';
import { toRad, wrap180 } from '../src/units.ts';
import type { ReferenceRow } from './csv.ts';
import { momentIn, numberIn } from './csv.ts';
import type { Verdict } from './tally.ts';
import { Tally } from './tally.ts';

const apartArcsec = (a: SkyPosition, b: SkyPosition): number => 3600 * angleBetweenDeg(unitVector(a), unitVector(b));

/** Pixels and corners of an image to the sky, and the sky to pixels. */
export function judgeTan(rows: readonly ReferenceRow[]): Verdict[] {
  const file = 'tan.csv';
  const toSky = new Tally({ file, quantity: 'pixel and corners to sky', unit: 'px', limit: 0.02 });
  const toPixel = new Tally({ file, quantity: 'sky to pixel', unit: 'px', limit: 0.02 });
  for (const row of rows) {
    const n = (name: string): number => numberIn(row, name);
    const sensor: SensorOnSky = {
      centre: { raDeg: n('ra0_deg'), decDeg: n('dec0_deg') },
      positionAngleDeg: n('rot_deg'),
      scaleArcsecPerPx: n('scale_arcsec_px'),
      widthPx: n('w_px'),
      heightPx: n('h_px'),
    };
    const { widthPx: w, heightPx: h, scaleArcsecPerPx } = sensor;
    const points: [x: number, y: number, ra: string, dec: string][] = [
      [n('px'), n('py'), 'px_ra_deg', 'px_dec_deg'],
      [0, 0, 'll_ra', 'll_dec'],
      [w, 0, 'lr_ra', 'lr_dec'],
      [w, h, 'ur_ra', 'ur_dec'],
      [0, h, 'ul_ra', 'ul_dec'],
    ];
    for (const [x, y, ra, dec] of points)
      toSky.add(apartArcsec(pixelToSky(sensor, { x, y }), { raDeg: n(ra), decDeg: n(dec) }) / scaleArcsecPerPx);
    const pixel = skyToPixel(sensor, { raDeg: n('sky_ra_deg'), decDeg: n('sky_dec_deg') });
    toPixel.add(pixel ? Math.hypot(pixel.x - n('sky_px'), pixel.y - n('sky_py')) : NaN);
  }
  return [toSky.verdict(), toPixel.verdict()];
}

/** Panels of a mosaic laid out in one plane. */
export function judgeMosaic(rows: readonly ReferenceRow[]): Verdict[] {
  const file = 'mosaic.csv';
  const centre = new Tally({ file, quantity: 'panel centre', unit: '″', limit: 0.5 });
  const angle = new Tally({ file, quantity: 'panel position angle', unit: '°', limit: 0.001 });
  for (const row of rows) {
    const n = (name: string): number => numberIn(row, name);
    const mosaic = mosaicOf({
      centre: { raDeg: n('ra0_deg'), decDeg: n('dec0_deg') },
      positionAngleDeg: n('rot_deg'),
      rows: n('rows'),
      cols: n('cols'),
      overlapShare: n('overlap'),
      widthDeg: n('fov_w_deg'),
      heightDeg: n('fov_h_deg'),
      layout: 'one_plane',
    });
    const panel = mosaic?.panels.find((one) => one.row === n('row') && one.col === n('col'));
    centre.add(panel ? apartArcsec(panel.centre, { raDeg: n('ra_deg'), decDeg: n('dec_deg') }) : NaN);
    angle.add(panel ? wrap180(panel.positionAngleDeg - n('pa_deg')) : NaN);
  }
  return [centre.verdict(), angle.verdict()];
}

/** Two-body places of comets from the Earth's centre, with distances and motion. */
export function judgeComet(rows: readonly ReferenceRow[]): Verdict[] {
  const file = 'comet.csv';
  const place = new Tally({ file, quantity: 'place, share of max(1″, 2.5″ ÷ distance)', unit: '×', limit: 1 });
  const distance = new Tally({ file, quantity: 'distance from Earth', unit: 'au', limit: 5e-5 });
  const rate = new Tally({ file, quantity: 'motion', unit: '%', limit: 0.5 });
  const turned = new Tally({ file, quantity: 'direction of motion, across', unit: '″/min', limit: 0.02 });
  for (const row of rows) {
    const utcMs = momentIn(row, 'utc')!;
    const orbit = {
      kind: 'comet' as const,
      name: 'of the reference',
      epochMjdTt: numberIn(row, 'epoch_mjd_tt'),
      perihelionMjdTt: numberIn(row, 'tperi_mjd_tt'),
      perihelionDistanceAu: numberIn(row, 'q_au'),
      eccentricity: numberIn(row, 'e'),
      inclinationDeg: numberIn(row, 'i_deg'),
      nodeDeg: numberIn(row, 'node_deg'),
      perihelionArgumentDeg: numberIn(row, 'argperi_deg'),
    };
    const deltaAu = numberIn(row, 'delta_au');
    const at = movingPlace(orbit, utcMs);
    const wanted = { raDeg: numberIn(row, 'ra_deg'), decDeg: numberIn(row, 'dec_deg') };
    place.add(apartArcsec(at.position, wanted) / Math.max(1, 2.5 / deltaAu));
    distance.add(at.distanceAu - deltaAu);
    const motion = movingRate(orbit, utcMs);
    rate.add(100 * (motion.arcsecPerMin / numberIn(row, 'motion_arcsec_per_min') - 1));
    turned.add(toRad(wrap180(motion.positionAngleDeg - numberIn(row, 'motion_pa_deg'))) * motion.arcsecPerMin);
  }
  return [place.verdict(), distance.verdict(), rate.verdict(), turned.verdict()];
}
