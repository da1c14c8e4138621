// Framed panels as text for other programs, and back: FITS world-coordinate cards, outlines as s_region, panels as CSV.
import { CoreError } from '../errors.ts';
import type { SensorOnSky } from '../framing/sensor.ts';
import { unitVector } from '../sky/frame-of-date.ts';
import type { SkyPosition } from '../sky/site.ts';
import { toRad, wrap360 } from '../units.ts';
import { cardOf, readFitsHeaders } from './fits-header.ts';
import type { HeaderWcs } from './header-wcs.ts';
import { wcsOf } from './header-wcs.ts';
import { readCsv, writeCsv } from './ledger-table.ts';

export interface ListedPanel {
  readonly name: string;
  readonly centre: SkyPosition;
  readonly positionAngleDeg: number;
}

const CARD = 80;
const BLOCK = 2880;

const value = (keyword: string, shown: string | number): string =>
  `${keyword.padEnd(8)}= ${String(shown).padStart(20)}`;
/** A text card is never longer than 80 columns: what does not fit is cut, a doubled quote never in half. */
function text(keyword: string, shown: string): string {
  let quoted = '';
  for (const letter of shown) {
    const next = quoted + (letter === "'" ? "''" : letter);
    if (next.length > LONGEST_TEXT) break;
    quoted = next;
  }
  return `${keyword.padEnd(8)}= '${quoted.padEnd(8)}'`;
}
const LONGEST_TEXT = 68;
const asBlocks = (cards: readonly string[]): string => {
  const header = cards.map((card) => card.padEnd(CARD)).join('');
  return header.padEnd(Math.ceil(header.length / BLOCK) * BLOCK);
};

/** A FITS header of one frame without data: world-coordinate cards of a gnomonic projection around its centre.
 * Source: Calabretta & Greisen 2002, A&A 395, 1077; the middle of the first pixel is (1, 1). */
export function writeWcsHeader(sensor: SensorOnSky, object: string): string {
  const scaleDeg = sensor.scaleArcsecPerPx / 3600;
  const [sine, cosine] = [
    Math.sin(toRad(sensor.positionAngleDeg)) * scaleDeg,
    Math.cos(toRad(sensor.positionAngleDeg)) * scaleDeg,
  ];
  const real = (keyword: string, number: number): string => value(keyword, number.toExponential(12).toUpperCase());
  const plain = object.normalize('NFKD').replace(/[^\x20-\x7e]/g, '');
  return asBlocks([
    value('SIMPLE', 'T'),
    value('BITPIX', 8),
    value('NAXIS', 0),
    text('OBJECT', plain),
    value('WCSAXES', 2),
    text('CTYPE1', 'RA---TAN'),
    text('CTYPE2', 'DEC--TAN'),
    text('CUNIT1', 'deg'),
    text('CUNIT2', 'deg'),
    text('RADESYS', 'ICRS'),
    real('CRVAL1', sensor.centre.raDeg),
    real('CRVAL2', sensor.centre.decDeg),
    real('CRPIX1', (sensor.widthPx + 1) / 2),
    real('CRPIX2', (sensor.heightPx + 1) / 2),
    real('CD1_1', -cosine),
    real('CD1_2', sine),
    real('CD2_1', sine),
    real('CD2_2', cosine),
    value('IMAGEW', sensor.widthPx),
    value('IMAGEH', sensor.heightPx),
    'END',
  ]);
}

/** An outline as the virtual observatory writes it in s_region: counter-clockwise as seen from inside the sphere, from
 * north through east. Source: IVOA ObsCore 1.1, section 4.12; STC-S 1.33. */
export function writeRegion(corners: readonly SkyPosition[]): string {
  const inOrder = turnsThroughEast(corners) ? corners : corners.toReversed();
  return `POLYGON ICRS ${inOrder.map(({ raDeg, decDeg }) => `${raDeg.toFixed(6)} ${decDeg.toFixed(6)}`).join(' ')}`;
}

/** Whether an outline runs from north through east around its middle. */
function turnsThroughEast(corners: readonly SkyPosition[]): boolean {
  const vectors = corners.map(unitVector);
  const middle = vectors.reduce((sum, v) => [sum[0] + v[0], sum[1] + v[1], sum[2] + v[2]] as const, [0, 0, 0] as const);
  const turn = vectors.reduce((sum, a, i) => {
    const b = vectors[(i + 1) % vectors.length];
    const normal = [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]];
    return sum + normal[0] * middle[0] + normal[1] * middle[1] + normal[2] * middle[2];
  }, 0);
  // Seen from outside, by the right-hand rule, that is the negative way round.
  return turn < 0;
}

const PANEL_COLUMNS = [
  { name: 'panel', unit: '', words: 'Name of the panel' },
  { name: 'ra_deg', unit: 'deg', words: 'Right ascension of its centre, J2000' },
  { name: 'dec_deg', unit: 'deg', words: 'Declination of its centre, J2000' },
  { name: 'angle_deg', unit: 'deg', words: 'Position angle of its upward side, east of north' },
] as const;

/** Panels as a table: name, centre, angle. */
export const writePanels = (panels: readonly ListedPanel[]): string =>
  writeCsv(
    PANEL_COLUMNS,
    panels.map(({ name, centre, positionAngleDeg }) => ({
      panel: name,
      ra_deg: centre.raDeg.toFixed(6),
      dec_deg: centre.decDeg.toFixed(6),
      angle_deg: wrap360(positionAngleDeg).toFixed(4),
    })),
  );

/** What a file or a pasted text says about framing. */
export type FramingText =
  | { readonly kind: 'panels'; readonly panels: readonly ListedPanel[] }
  | { readonly kind: 'outline'; readonly outline: readonly SkyPosition[] }
  | { readonly kind: 'circle'; readonly centre: SkyPosition; readonly radiusDeg: number }
  | { readonly kind: 'frame'; readonly centre: SkyPosition; readonly positionAngleDeg: number };

/** Reads world-coordinate cards (of a header, 80 characters a card or a line), s_region, or a table of panels.
 * @param sensor pixels of the frame that the cards belong to, where they don't say
 * @throws FRAMING_UNREADABLE, TABLE_UNREADABLE */
export function readFramingText(
  given: string,
  sensor: { readonly widthPx: number; readonly heightPx: number },
): FramingText {
  const plain = given.trim();
  if (/^(POLYGON|CIRCLE)\b/i.test(plain)) return readRegion(plain);
  if (/\bCRVAL1\s*=/.test(plain)) return readCards(given, sensor);
  if (/^[^\n]*\bra_deg\b/i.test(plain)) return { kind: 'panels', panels: readPanels(plain) };
  throw new CoreError(
    'FRAMING_UNREADABLE',
    'This is none of: FITS cards with CRVAL1, an outline like "POLYGON ICRS 10.1 −25.2 …", or a table with the columns ra_deg, dec_deg, angle_deg',
    {},
  );
}

function readRegion(given: string): FramingText {
  const [, shape, frame, rest] = /^(POLYGON|CIRCLE)\s+(?:(ICRS|FK5|J2000)\s+)?([\s\S]*)$/i.exec(given) ?? [];
  const numbers = (rest ?? '')
    .trim()
    .split(/[\s,]+/)
    .map(Number);
  const isCircle = shape?.toUpperCase() === 'CIRCLE';
  const isWhole =
    numbers.every(Number.isFinite) &&
    (isCircle ? numbers.length === 3 : numbers.length >= 6 && numbers.length % 2 === 0);
  if (!isWhole)
    throw new CoreError(
      'FRAMING_UNREADABLE',
      isCircle
        ? 'A circle is a right ascension, a declination and a radius, in degrees'
        : 'An outline needs three or more corners, each a right ascension and a declination in degrees (ICRS)',
      { frame },
    );
  if (isCircle) return { kind: 'circle', centre: placeOf(numbers[0], numbers[1]), radiusDeg: numbers[2] };
  const outline = Array.from({ length: numbers.length / 2 }, (_, i) => placeOf(numbers[2 * i], numbers[2 * i + 1]));
  return { kind: 'outline', outline };
}

function placeOf(raDeg: number, decDeg: number): SkyPosition {
  if (Math.abs(decDeg) > 90 || raDeg < -360 || raDeg > 360)
    throw new CoreError(
      'FRAMING_UNREADABLE',
      `${raDeg} ${decDeg} is no place on the sky: right ascension 0 to 360, declination −90 to 90, in degrees`,
      {},
    );
  return { raDeg: wrap360(raDeg), decDeg };
}

function readCards(given: string, sensor: { readonly widthPx: number; readonly heightPx: number }): FramingText {
  const { wcs } = solutionOf(given, sensor);
  return { kind: 'frame', centre: wcs.centre, positionAngleDeg: wcs.positionAngleDeg };
}

/** Where a picture lies that comes with world-coordinate cards of its own; one that was made smaller since is stretched back.
 * @throws FRAMING_UNREADABLE where the cards make no solution, one seen in a mirror, or one of another shape */
export function placedByCards(
  given: string,
  picture: { readonly widthPx: number; readonly heightPx: number },
): SensorOnSky {
  const { wcs, widthPx, heightPx } = solutionOf(given, picture);
  if (wcs.isMirrored)
    throw new CoreError(
      'FRAMING_UNREADABLE',
      'These cards belong to a picture seen in a mirror: turn it over first',
      {},
    );
  const shrunk = widthPx / picture.widthPx;
  if (Math.abs(heightPx / picture.heightPx - shrunk) > 0.01 * shrunk)
    throw new CoreError(
      'FRAMING_UNREADABLE',
      `These cards belong to a frame of ${widthPx} × ${heightPx} pixels; the picture, ${picture.widthPx} × ${picture.heightPx}, has another shape`,
      {},
    );
  const { centre, positionAngleDeg, scaleArcsecPerPx } = wcs;
  const { widthPx: width, heightPx: height } = picture;
  return { centre, positionAngleDeg, scaleArcsecPerPx: scaleArcsecPerPx * shrunk, widthPx: width, heightPx: height };
}

/** The solution that cards make, with the sides of the frame they belong to: as given where the cards don't say. */
function solutionOf(
  given: string,
  sides: { readonly widthPx: number; readonly heightPx: number },
): { wcs: HeaderWcs; widthPx: number; heightPx: number } {
  // Cards pasted from an editor stand on lines; in a file they follow one another.
  const head = given.slice(0, CARD + 1).includes('\n') ? given : given.split(/END {20,}/)[0];
  const lines = /\n/.test(head) ? head.split(/\r?\n/) : (head.match(/.{1,80}/g) ?? []);
  const cards = lines.filter((line) => !/^(SIMPLE|END\b)/.test(line)).map((line) => line.slice(0, CARD));
  const bytes = new TextEncoder().encode(asBlocks([value('SIMPLE', 'T'), ...cards, 'END']));
  const read = readFitsHeaders(bytes).units[0]?.cards ?? [];
  const side = (keywords: readonly string[], usual: number): number => {
    const found = keywords.map((keyword) => cardOf(read, keyword)?.value);
    return found.find((size): size is number => typeof size === 'number' && size > 0) ?? usual;
  };
  const widthPx = side(['IMAGEW', 'NAXIS1'], sides.widthPx);
  const heightPx = side(['IMAGEH', 'NAXIS2'], sides.heightPx);
  const wcs = wcsOf(read, widthPx, heightPx);
  if (!wcs)
    throw new CoreError(
      'FRAMING_UNREADABLE',
      'The cards don’t make a whole solution: CRVAL, CRPIX, and CD or CDELT are needed',
      {},
    );
  return { wcs, widthPx, heightPx };
}

function readPanels(table: string): ListedPanel[] {
  const rows = readCsv(table, 400);
  return rows.map((row, i) => {
    const number = (name: string): number => {
      const read = Number(row[name]);
      if (row[name] === undefined || row[name] === '' || !Number.isFinite(read))
        throw new CoreError('TABLE_UNREADABLE', `Row ${i + 1}: ${name} is missing or no number`, {});
      return read;
    };
    return {
      name: String(row.panel ?? '') || String(i + 1),
      centre: placeOf(number('ra_deg'), number('dec_deg')),
      positionAngleDeg: wrap360(number('angle_deg')),
    };
  });
}
