// What a frame's header says, read the way writers differ: each fact with a doubt where it had to be guessed.
import { parseDeclinationDeg, parseRightAscensionDeg } from '../targets/coordinates.ts';
import type { SkyPosition } from '../sky/site.ts';
import type { UtcMs } from '../units.ts';
import type { CardValue, FitsCard, FitsHeaders, FitsUnit } from './fits-header.ts';
import { cardOf } from './fits-header.ts';
import { startOf } from './frame-start.ts';
import { wcsOf } from './header-wcs.ts';

export const FRAME_KINDS = ['light', 'flat', 'dark', 'bias'] as const;
export type FrameKind = (typeof FRAME_KINDS)[number];

/** One frame as its header tells it; null where it doesn't. */
export interface FrameFacts {
  readonly kind: FrameKind;
  readonly objectName: string | null;
  readonly centre: SkyPosition | null;
  /** From a plate solution, modulo 360; null where there is none. */
  readonly positionAngleDeg: number | null;
  readonly scaleArcsecPerPx: number | null;
  readonly isMirrored: boolean | null;
  readonly startUtcMs: UtcMs | null;
  /** Smallest step of the start as written: 1 for milliseconds, 1000 for whole seconds. */
  readonly startStepMs: number | null;
  readonly exposureSec: number | null;
  readonly filterName: string | null;
  /** The camera's gain setting, not electrons per ADU. */
  readonly gain: number | null;
  readonly offset: number | null;
  readonly binning: number;
  readonly sensorC: number | null;
  readonly cameraName: string | null;
  readonly telescopeName: string | null;
  readonly observerName: string | null;
  readonly sequence: number | null;
  readonly widthPx: number;
  readonly heightPx: number;
  readonly isTruncated: boolean;
  /** Bytes of the data unit, whose hash is the frame's identity. */
  readonly dataStart: number;
  readonly dataLength: number;
  readonly doubts: readonly string[];
}

/** What reading a header needs to know of the observatory. */
export interface ReadingPlace {
  /** For writers that put local time into DATE-OBS. */
  readonly timeZone: string;
}

/** Facts of the first image among the units of a file.
 * @returns null where the file holds no image */
export function frameFacts({ units, doubts: fileDoubts }: FitsHeaders, place: ReadingPlace): FrameFacts | null {
  const image = units.find((unit) => imageSize(unit) !== null);
  if (!image) return null;
  const { widthPx, heightPx } = imageSize(image)!;
  // An extension speaks for itself first, then the file's first header does.
  const cards = image === units[0] ? image.cards : [...image.cards, ...units[0].cards];
  const doubts = [...fileDoubts];
  const header = headerReader(cards);
  const wcs = wcsOf(cards, widthPx, heightPx);
  const start = startOf(cards, place.timeZone, doubts);
  const { dataStart, dataLength, dataPresent } = image;
  return {
    kind: kindOf(header.text('IMAGETYP') ?? header.text('FRAME') ?? header.text('OBSTYPE'), doubts),
    objectName: header.text('OBJECT'),
    centre: wcs?.centre ?? pointingOf(cards, doubts),
    positionAngleDeg: wcs?.positionAngleDeg ?? null,
    scaleArcsecPerPx: wcs?.scaleArcsecPerPx ?? null,
    isMirrored: wcs?.isMirrored ?? null,
    startUtcMs: start?.utcMs ?? null,
    startStepMs: start?.stepMs ?? null,
    exposureSec: exposureOf(header, doubts),
    filterName: header.text('FILTER') ?? header.text('FILTER1'),
    gain: gainOf(cards, header, doubts),
    offset: header.number('OFFSET') ?? header.number('BLKLEVEL'),
    binning: header.number('XBINNING') ?? header.number('BINNING') ?? 1,
    sensorC: header.number('CCD-TEMP') ?? header.number('DET-TEMP') ?? header.number('SET-TEMP'),
    cameraName: header.text('INSTRUME') ?? header.text('CAMERA'),
    telescopeName: header.text('TELESCOP'),
    observerName: header.text('OBSERVER'),
    sequence: header.number('EXPNUM') ?? header.number('FRAMENUM') ?? header.number('SEQNUM'),
    widthPx,
    heightPx,
    isTruncated: dataPresent < dataLength,
    dataStart,
    dataLength: dataPresent,
    doubts,
  };
}

/** A compressed image hides its size behind Z-cards in a table. Source: FITS Standard 4.0, section 10. */
function imageSize({ cards }: FitsUnit): { widthPx: number; heightPx: number } | null {
  const { number, value } = headerReader(cards);
  const isCompressed = value('ZIMAGE') === true;
  const isTable = value('XTENSION') === 'BINTABLE' || value('XTENSION') === 'TABLE';
  if (isTable && !isCompressed) return null;
  const prefix = isCompressed ? 'ZNAXIS' : 'NAXIS';
  const [axes, widthPx, heightPx] = [number(prefix), number(`${prefix}1`), number(`${prefix}2`)];
  if (axes === null || axes < 2 || !widthPx || !heightPx) return null;
  return { widthPx, heightPx };
}

interface HeaderReader {
  value(keyword: string): CardValue | undefined;
  /** Trimmed; null where empty or absent. */
  text(keyword: string): string | null;
  number(keyword: string): number | null;
}

function headerReader(cards: readonly FitsCard[]): HeaderReader {
  const value = (keyword: string): CardValue | undefined => cardOf(cards, keyword)?.value;
  return {
    value,
    text(keyword) {
      const found = value(keyword);
      const words = found === null || found === undefined ? '' : String(found).trim();
      return words === '' ? null : words;
    },
    number(keyword) {
      const found = value(keyword);
      if (typeof found === 'number') return found;
      return typeof found === 'string' && found.trim() !== '' && Number.isFinite(Number(found)) ? Number(found) : null;
    },
  };
}

const KIND_WORDS: readonly (readonly [RegExp, FrameKind])[] = [
  [/flat/i, 'flat'],
  [/dark/i, 'dark'],
  [/bias|zero|offset/i, 'bias'],
  [/light|object|science|sci/i, 'light'],
];

function kindOf(words: string | null, doubts: string[]): FrameKind {
  const kind = words === null ? undefined : KIND_WORDS.find(([pattern]) => pattern.test(words))?.[1];
  if (!kind)
    doubts.push(
      words === null ? 'no IMAGETYP: taken for a light' : `IMAGETYP "${words}" is unknown: taken for a light`,
    );
  return kind ?? 'light';
}

function exposureOf({ number }: HeaderReader, doubts: string[]): number | null {
  const [time, exposure] = [number('EXPTIME'), number('EXPOSURE')];
  if (time !== null && exposure !== null && Math.abs(time - exposure) > 0.01 * Math.max(time, exposure))
    doubts.push(`EXPTIME says ${time} s, EXPOSURE ${exposure}; EXPTIME is used`);
  return time ?? exposure;
}

/** GAIN is the camera's setting for some writers and electrons per ADU for others. */
function gainOf(cards: readonly FitsCard[], { number }: HeaderReader, doubts: string[]): number | null {
  const gain = number('GAIN');
  if (gain === null) return null;
  const comment = cardOf(cards, 'GAIN')?.comment ?? '';
  const isElectrons = /e-?\s*(per|\/)\s*(adu|dn)|electron/i.test(comment);
  if (!isElectrons && Number.isInteger(gain) && gain !== number('EGAIN')) return gain;
  doubts.push(`GAIN ${gain} is electrons per ADU, not a setting; the gain setting is unknown`);
  return null;
}

function pointingOf(cards: readonly FitsCard[], doubts: string[]): SkyPosition | null {
  const [ra, dec] = [cardOf(cards, 'RA') ?? cardOf(cards, 'CRVAL1'), cardOf(cards, 'DEC') ?? cardOf(cards, 'CRVAL2')];
  const decDeg = declinationOf(dec);
  if (ra && decDeg !== null) {
    const raDeg = rightAscensionOf(ra, objectRightAscension(cards), doubts);
    if (raDeg !== null) return { raDeg, decDeg };
  }
  const [objectRa, objectDec] = [objectRightAscension(cards), declinationOf(cardOf(cards, 'OBJCTDEC'))];
  return objectRa !== null && objectDec !== null ? { raDeg: objectRa, decDeg: objectDec } : null;
}

const objectRightAscension = (cards: readonly FitsCard[]): number | null => {
  const card = cardOf(cards, 'OBJCTRA');
  return card ? readOrNull(() => parseRightAscensionDeg(asHours(String(card.value)))) : null;
};

/** A bare number is degrees unless its comment, or a second card beside it, says hours. */
function rightAscensionOf(card: FitsCard, otherRaDeg: number | null, doubts: string[]): number | null {
  if (typeof card.value === 'string') return readOrNull(() => parseRightAscensionDeg(asHours(card.value as string)));
  if (typeof card.value !== 'number') return null;
  const inHours = card.value * 15;
  const isNear = (raDeg: number): boolean => otherRaDeg !== null && Math.abs(raDeg - otherRaDeg) < 1;
  const saysHours = /hour|\bh\b/i.test(card.comment) && !/deg/i.test(card.comment);
  if (card.value < 24 && (saysHours || (isNear(inHours) && !isNear(card.value)))) return inHours;
  if (card.value < 24 && !/deg/i.test(card.comment) && !isNear(card.value))
    doubts.push(`RA ${card.value} could be hours; it is taken for degrees`);
  return card.value >= 0 && card.value < 360 ? card.value : null;
}

/** Sexagesimal text is hours; "83.6" as text is degrees like the number would be. */
const asHours = (text: string): string => (/^\s*\d+\.\d+\s*$/.test(text) ? `${text.trim()}°` : text);

function declinationOf(card: FitsCard | undefined): number | null {
  if (!card) return null;
  if (typeof card.value === 'number') return Math.abs(card.value) <= 90 ? card.value : null;
  return typeof card.value === 'string' ? readOrNull(() => parseDeclinationDeg(card.value as string)) : null;
}

function readOrNull(read: () => number): number | null {
  try {
    return read();
  } catch {
    return null;
  }
}
