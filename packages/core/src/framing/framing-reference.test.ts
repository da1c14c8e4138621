import { describe, expect, it } from '@jest/globals';
import { readFileSync } from 'node:fs';
import { referenceRows } from '../../accuracy/csv.ts';
import { angleBetweenDeg, unitVector } from '../sky/frame-of-date.ts';
import { wrap360 } from '../units.ts';
import { mosaicOf } from './mosaic.ts';
import type { SensorOnSky } from './sensor.ts';
import { pixelToSky, skyToPixel } from './sensor.ts';

const rowsOf = (name: string) =>
  referenceRows(readFileSync(new URL(`../../fixtures/reference/${name}`, import.meta.url), 'utf8'));
const apartArcsec = (a: { raDeg: number; decDeg: number }, b: { raDeg: number; decDeg: number }): number =>
  3600 * angleBetweenDeg(unitVector(a), unitVector(b));

describe('the sensor on the sky, against tan.csv', () => {
  const rows = rowsOf('tan.csv').map((row) => {
    const n = (name: string): number => Number(row[name]);
    const sensor: SensorOnSky = {
      centre: { raDeg: n('ra0_deg'), decDeg: n('dec0_deg') },
      positionAngleDeg: n('rot_deg'),
      scaleArcsecPerPx: n('scale_arcsec_px'),
      widthPx: n('w_px'),
      heightPx: n('h_px'),
    };
    return { n, sensor };
  });

  it('has all its rows', () => expect(rows.length).toBe(300));

  it('looks where the reference looks, from pixels and corners, within 0.02 px', () => {
    for (const { n, sensor } of rows) {
      const { widthPx: w, heightPx: h, scaleArcsecPerPx } = sensor;
      const cases: [number, number, string][] = [
        [n('px'), n('py'), 'px'],
        [0, 0, 'll'],
        [w, 0, 'lr'],
        [w, h, 'ur'],
        [0, h, 'ul'],
      ];
      for (const [x, y, name] of cases) {
        const [ra, dec] = name === 'px' ? ['px_ra_deg', 'px_dec_deg'] : [`${name}_ra`, `${name}_dec`];
        const apart = apartArcsec(pixelToSky(sensor, { x, y }), { raDeg: n(ra), decDeg: n(dec) });
        expect(apart / scaleArcsecPerPx).toBeLessThan(0.02);
      }
      const pixel = skyToPixel(sensor, { raDeg: n('sky_ra_deg'), decDeg: n('sky_dec_deg') })!;
      expect(Math.hypot(pixel.x - n('sky_px'), pixel.y - n('sky_py'))).toBeLessThan(0.02);
    }
  });

  it('goes there and back within a millionth of a pixel', () => {
    for (const { n, sensor } of rows) {
      const back = skyToPixel(sensor, pixelToSky(sensor, { x: n('px'), y: n('py') }))!;
      expect(Math.hypot(back.x - n('px'), back.y - n('py'))).toBeLessThan(1e-6);
    }
  });
});

describe('panels of one plane, against mosaic.csv', () => {
  it('stand within 0.5 arcsec and 0.001° of the reference', () => {
    const rows = rowsOf('mosaic.csv');
    expect(rows.length).toBe(183);
    for (const row of rows) {
      const n = (name: string): number => Number(row[name]);
      const mosaic = mosaicOf({
        centre: { raDeg: n('ra0_deg'), decDeg: n('dec0_deg') },
        positionAngleDeg: n('rot_deg'),
        rows: n('rows'),
        cols: n('cols'),
        overlapShare: n('overlap'),
        widthDeg: n('fov_w_deg'),
        heightDeg: n('fov_h_deg'),
        layout: 'one_plane',
      })!;
      const panel = mosaic.panels.find(({ row: r, col }) => r === n('row') && col === n('col'))!;
      expect(apartArcsec(panel.centre, { raDeg: n('ra_deg'), decDeg: n('dec_deg') })).toBeLessThan(0.5);
      const turned = wrap360(panel.positionAngleDeg - n('pa_deg') + 180) - 180;
      expect(Math.abs(turned)).toBeLessThan(0.001);
    }
  });
});
