// What a frame's header says, read the way writers differ: each fact with a doubt where it had to be guessed.
import type { SkyPosition } from '../sky/site.ts';
import type { UtcMs } from '../units.ts';
import type { FitsHeaders, FitsUnit } from './fits-header.ts';
import { asJ2000, isSkyProjection, pointingOf, siteOf } from './frame-place.ts';
import type { FrameKind } from './frame-settings.ts';
import { binningOf, combinedWords, exposureOf, filterNameOf, gainOf, kindOf, sensorCOf } from './frame-settings.ts';
import { startOf } from './frame-start.ts';
import { firstNumber, firstText, headerReader } from './header-reader.ts';
import { wcsOf } from './header-wcs.ts';
import { soundFacts } from './sound-facts.ts';

export type { FrameKind } from './frame-settings.ts';
export { FRAME_KINDS } from './frame-settings.ts';

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
  /** null where the axes differ or nothing sensible is written. */
  readonly binning: number | null;
  readonly sensorC: number | null;
  readonly cameraName: string | null;
  readonly telescopeName: string | null;
  readonly observerName: string | null;
  readonly sequence: number | null;
  readonly widthPx: number;
  readonly heightPx: number;
  readonly isTruncated: boolean;
  /** Made by a simulated observatory: of no real sky. */
  readonly isSimulated: boolean;
  /** Why it is no single exposure; null where it is one. */
  readonly combined: string | null;
  /** Where the telescope stood; null where the header is silent. */
  readonly site: { readonly latitudeDeg: number; readonly longitudeDeg: number } | null;
  /** Bytes of the data unit, whose hash is the frame's identity. */
  readonly dataStart: number;
  readonly dataLength: number;
  readonly doubts: readonly string[];
}

/** True in the header of a frame of no real sky. */
export const SIMULATED_KEYWORD = 'SIMULATE';

/** What reading a header needs to know of the observatory. */
export interface ReadingPlace {
  /** For writers that put local time into DATE-OBS. */
  readonly timeZone: string;
}

/** The first image among the units of a file. */
export const imageOf = ({ units }: FitsHeaders): FitsUnit | null =>
  units.find((unit) => imageSize(unit) !== null) ?? null;

/** Facts of the first image among the units of a file.
 * @returns null where the file holds no image */
export function frameFacts(headers: FitsHeaders, place: ReadingPlace): FrameFacts | null {
  const { units, doubts: fileDoubts } = headers;
  const image = imageOf(headers);
  if (!image) return null;
  const { widthPx, heightPx } = imageSize(image)!;
  // An extension speaks for itself first, then the file's first header does.
  const cards = image === units[0] ? image.cards : [...image.cards, ...units[0].cards];
  const doubts = [...fileDoubts];
  const header = headerReader(cards);
  const start = startOf(cards, place.timeZone, doubts);
  const wcs = isSkyProjection(cards) ? wcsOf(cards, widthPx, heightPx) : null;
  if (!wcs && !isSkyProjection(cards)) doubts.push(`CTYPE1 "${header.text('CTYPE1')}" is no place on the sky`);
  const atUtcMs = start?.utcMs ?? null;
  const solved = wcs && asJ2000(wcs.centre, cards, atUtcMs, doubts);
  const { dataStart, dataLength, dataPresent } = image;
  return soundFacts({
    kind: kindOf(header, doubts),
    objectName: header.text('OBJECT'),
    centre: solved ?? pointingOf(cards, atUtcMs, doubts),
    positionAngleDeg: wcs?.positionAngleDeg ?? null,
    scaleArcsecPerPx: wcs?.scaleArcsecPerPx ?? null,
    isMirrored: wcs?.isMirrored ?? null,
    startUtcMs: atUtcMs,
    startStepMs: start?.stepMs ?? null,
    exposureSec: exposureOf(header, doubts),
    filterName: filterNameOf(header, doubts),
    gain: gainOf(header, doubts),
    offset: firstNumber(header, ['OFFSET', 'BLKLEVEL', 'PEDESTAL']),
    binning: binningOf(header, doubts),
    sensorC: sensorCOf(header, doubts),
    cameraName: firstText(header, ['INSTRUME', 'CAMERA', 'DETECTOR']),
    telescopeName: header.text('TELESCOP'),
    observerName: header.text('OBSERVER'),
    sequence: firstNumber(header, ['EXPNUM', 'FRAMENUM', 'SEQNUM']),
    widthPx,
    heightPx,
    isTruncated: dataPresent < dataLength,
    isSimulated: header.value(SIMULATED_KEYWORD) === true,
    combined: combinedWords(header),
    site: siteOf(cards),
    dataStart,
    dataLength: dataPresent,
    doubts,
  });
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
