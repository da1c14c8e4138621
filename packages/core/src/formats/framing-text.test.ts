import { describe, expect, it } from '@jest/globals';
import { angleBetweenDeg, unitVector } from '../sky/frame-of-date.ts';
import { placedByCards, readFramingText, writePanels, writeRegion, writeWcsHeader } from './framing-text.ts';

const sensor = {
  centre: { raDeg: 359.9, decDeg: -72.25 },
  positionAngleDeg: 123.4,
  scaleArcsecPerPx: 1.7,
  widthPx: 1600,
  heightPx: 1201,
};
const other = { widthPx: 10, heightPx: 10 };

describe('framing as text', () => {
  it('goes out as world-coordinate cards and comes back', () => {
    const header = writeWcsHeader(sensor, 'Sculptor’s "six"');
    expect(header.length % 2880).toBe(0);
    const read = readFramingText(header, other);
    if (read.kind !== 'frame') throw new Error(read.kind);
    expect(angleBetweenDeg(unitVector(read.centre), unitVector(sensor.centre)) * 3600).toBeLessThan(0.001);
    expect(read.positionAngleDeg).toBeCloseTo(123.4, 6);
    const pasted = header
      .match(/.{80}/g)!
      .map((card) => card.trim())
      .join('\n');
    expect(readFramingText(pasted, other)).toEqual(read);
  });

  it('places a picture by its own cards, also one that was made smaller since', () => {
    const header = writeWcsHeader(sensor, 'six');
    for (const shrunk of [1, 0.5, 0.25]) {
      const picture = { widthPx: 1600 * shrunk, heightPx: Math.round(1201 * shrunk) };
      const placed = placedByCards(header, picture);
      expect(placed).toMatchObject(picture);
      expect(placed.scaleArcsecPerPx).toBeCloseTo(1.7 / shrunk, 6);
      expect(placed.positionAngleDeg).toBeCloseTo(123.4, 6);
      expect(angleBetweenDeg(unitVector(placed.centre), unitVector(sensor.centre)) * 3600).toBeLessThan(0.001);
    }
  });

  it('reads the head of a whole file, whatever its data', () => {
    const file = `${writeWcsHeader(sensor, 'six')}\u0001\n\u0002 data \nCRVAL1  = 7`;
    expect(placedByCards(file, sensor).positionAngleDeg).toBeCloseTo(123.4, 6);
  });

  it('says what is wrong with cards that belong to no such picture', () => {
    const header = writeWcsHeader(sensor, 'six');
    expect(() => placedByCards(header, { widthPx: 1000, heightPx: 1000 })).toThrow(/1600 × 1201 pixels.*another shape/);
    const cards = 'CRVAL1  = 10\nCRVAL2  = -20\nCRPIX1  = 5.5\nCRPIX2  = 5.5\nCDELT1  = 0.001\nCDELT2  = 0.001';
    expect(() => placedByCards(cards, other)).toThrow(/mirror/);
    expect(() => placedByCards('CRVAL1  = 10', other)).toThrow(/whole solution/);
  });

  it('reads cards with CDELT and CROTA2 that don’t say how large the frame is', () => {
    const cards =
      'CRVAL1 = 10\nCRVAL2  = -20\nCRPIX1  = 5.5\nCRPIX2  = 5.5\nCDELT1  = -0.001\nCDELT2  = 0.001\nCROTA2  = 30';
    const read = readFramingText(cards.replace('CRVAL1 =', 'CRVAL1  ='), other);
    expect(read).toMatchObject({ kind: 'frame', centre: { decDeg: -20 } });
  });

  it('goes out as s_region and comes back; circles are read too', () => {
    const outline = [
      { raDeg: 10, decDeg: -25 },
      { raDeg: 10.5, decDeg: -24 },
      { raDeg: 11, decDeg: -25 },
    ];
    expect(readFramingText(writeRegion(outline), other)).toEqual({ kind: 'outline', outline });
    expect(readFramingText(' polygon 10 -25, 10.5 -24, 11 -25 ', other)).toEqual({ kind: 'outline', outline });
    expect(readFramingText('CIRCLE ICRS 10 -25 0.5', other)).toEqual({
      kind: 'circle',
      centre: outline[0],
      radiusDeg: 0.5,
    });
  });

  it('goes out as a table of panels and comes back', () => {
    const panels = [
      { name: '=Nine', centre: { raDeg: 0.5, decDeg: 1 }, positionAngleDeg: 10 },
      { name: 'Ten, east', centre: { raDeg: 1.5, decDeg: -1 }, positionAngleDeg: 190 },
    ];
    expect(readFramingText(writePanels(panels), other)).toEqual({ kind: 'panels', panels });
  });

  it('says what is wrong', () => {
    const words = (text: string): string => {
      try {
        return JSON.stringify(readFramingText(text, other));
      } catch (error) {
        return (error as Error).message;
      }
    };
    expect(words('hello')).toMatch(/none of: FITS cards/);
    expect(words('POLYGON ICRS 1 2 3 4')).toMatch(/three or more corners/);
    expect(words('POLYGON ICRS 1 2 3 4 5 x')).toMatch(/three or more corners/);
    expect(words('POLYGON ICRS 1 2 3 95 5 6')).toMatch(/no place on the sky/);
    expect(words('CIRCLE ICRS 1 2')).toMatch(/a radius/);
    expect(words('CRVAL1  = 10\nCRVAL2  = 5')).toMatch(/whole solution/);
    expect(words('panel,ra_deg,dec_deg,angle_deg\na,1,,3')).toMatch(/Row 1: dec_deg is missing/);
  });
});

describe('what goes out', () => {
  it('is an outline counter-clockwise as seen from inside, from north through east', () => {
    // North-west, north-east, south-east, south-west: through east; and the same the other way round.
    const corners = [
      { raDeg: 9, decDeg: -29 },
      { raDeg: 11, decDeg: -29 },
      { raDeg: 11, decDeg: -31 },
      { raDeg: 9, decDeg: -31 },
    ];
    const starts = (text: string): string[] =>
      text
        .replace('POLYGON ICRS ', '')
        .split(' ')
        .map((part) => Number(part).toFixed(0));
    const way = (text: string): string => `${starts(text).join(' ')} `.repeat(2);
    for (const given of [corners, corners.toReversed()])
      expect(way(writeRegion(given))).toContain('9 -29 11 -29 11 -31 9 -31');
  });
  it.each(['x'.repeat(200), "'".repeat(200), "O'Neill’s ".repeat(20)])(
    'has cards of 80 columns whatever a name is (%#)',
    (name) => {
      const header = writeWcsHeader(
        { centre: { raDeg: 10, decDeg: -30 }, positionAngleDeg: 12, widthPx: 100, heightPx: 80, scaleArcsecPerPx: 1 },
        name,
      );
      const cards = header.match(/.{80}/gs)!;
      expect(cards.map((card) => card.slice(0, 8).trim()).slice(0, 6)).toEqual([
        'SIMPLE',
        'BITPIX',
        'NAXIS',
        'OBJECT',
        'WCSAXES',
        'CTYPE1',
      ]);
      expect(cards[3].trimEnd()).toMatch(/'$/);
    },
  );
});
