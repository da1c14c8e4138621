// Frames on disk: a FITS file an exposure, written beside and renamed, with all that was true of it in the header.
import { createHash } from 'node:crypto';
import { mkdir, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { DeviceRun, RunStep } from '@meridiem/contract';
import type { PictureFigures, WrittenCard } from '@meridiem/core';
import { formatDeclination, formatRightAscension, plainName, SIMULATED_KEYWORD, writeFits } from '@meridiem/core';
import type { CameraPicture } from '@meridiem/devices';
import type { FrameFile } from '../kept-reports.ts';

const LONGEST_NAME = 60;

export interface TakenFrame {
  readonly startUtcMs: number;
  readonly exposureSec: number;
  readonly sensorC: number;
  readonly focusSteps: number | null;
  /** Where a motor turns the camera. */
  readonly mechanicalAngleDeg?: number;
  readonly pierSide: string;
  readonly airmass: number;
  readonly figures: PictureFigures;
}

export interface StoredFrame extends FrameFile {
  readonly sizeBytes: number;
  readonly sha256: string;
}

/** Written whole beside its place; the name becomes final once its exposure is reported.
 * @param folder where all frames lie */
export async function storeFrame(
  folder: string,
  { rig, nightDate, deviceRun }: { rig: { name: string }; nightDate: string; deviceRun: DeviceRun },
  step: RunStep,
  picture: CameraPicture,
  taken: TakenFrame,
): Promise<StoredFrame> {
  const place = join(plainName(rig.name, LONGEST_NAME), nightDate);
  const name = `${plainName(step.panelName, LONGEST_NAME)}_${plainName(step.filterLetter)}_${momentOf(taken.startUtcMs).slice(0, 19)}.fits`;
  return storedPicture(folder, { place, name }, picture, cardsOf(rig.name, deviceRun, step, taken));
}

export interface CalibrationFrame extends Pick<
  TakenFrame,
  'startUtcMs' | 'exposureSec' | 'sensorC' | 'mechanicalAngleDeg'
> {
  readonly kind: 'flat' | 'dark' | 'bias';
  /** Of flats. */
  readonly filterLetter: string | null;
  readonly gain: number;
  readonly offset: number;
  readonly binning: number;
}

/** As `storeFrame`, for a calibration frame. */
export function storeCalibration(
  folder: string,
  { rig, nightDate, deviceRun }: { rig: { name: string }; nightDate: string; deviceRun: DeviceRun },
  taken: CalibrationFrame,
  picture: CameraPicture,
): Promise<StoredFrame> {
  const place = join(plainName(rig.name, LONGEST_NAME), nightDate, 'calibration');
  const name = `${[taken.kind, ...(taken.filterLetter ? [plainName(taken.filterLetter)] : []), `${taken.exposureSec}s`.replace('.', '-'), momentOf(taken.startUtcMs)].join('_')}.fits`; // prettier-ignore
  return storedPicture(folder, { place, name }, picture, calibrationCards(rig.name, deviceRun, taken));
}

const momentOf = (utcMs: number): string => new Date(utcMs).toISOString().slice(0, 23).replaceAll(/[:.]/g, '-');

async function storedPicture(
  folder: string,
  { place, name }: { readonly place: string; readonly name: string },
  picture: CameraPicture,
  cards: readonly WrittenCard[],
): Promise<StoredFrame> {
  const part = join(place, `.${name}.part`);
  await mkdir(join(folder, place), { recursive: true });
  const bytes = writeFits(upright(picture), cards);
  try {
    await writeFile(join(folder, part), bytes);
  } catch (error) {
    await rm(join(folder, part), { force: true }).catch(() => undefined);
    throw (error as NodeJS.ErrnoException).code === 'ENOSPC'
      ? new Error('the disk for frames is full', { cause: error })
      : error;
  }
  const sha256 = createHash('sha256').update(bytes).digest('hex');
  return { part, name: join(place, name), sizeBytes: bytes.length, sha256 };
}

/** FITS counts rows from the bottom, cameras from the top. */
function upright({ widthPx, heightPx, pixels }: CameraPicture): CameraPicture {
  const turned = new Uint16Array(pixels.length);
  for (let y = 0; y < heightPx; y++)
    turned.set(pixels.subarray(y * widthPx, (y + 1) * widthPx), (heightPx - 1 - y) * widthPx);
  return { widthPx, heightPx, pixels: turned };
}

function cardsOf(rigName: string, { optics, isSimulated }: DeviceRun, step: RunStep, taken: TakenFrame): WrittenCard[] {
  const { startUtcMs, exposureSec, sensorC, focusSteps, mechanicalAngleDeg, pierSide, airmass, figures } = taken;
  return [
    { keyword: 'IMAGETYP', value: 'LIGHT' },
    { keyword: 'OBJECT', value: step.panelName.slice(0, 60) },
    { keyword: 'FILTER', value: step.filterLetter },
    ...readingCards({ ...step, startUtcMs, exposureSec, sensorC }),
    { keyword: 'SET-TEMP', value: step.sensorC, comment: 'deg C' },
    { keyword: 'RA', value: step.raDeg, comment: 'deg, J2000, as planned' },
    { keyword: 'DEC', value: step.decDeg, comment: 'deg, J2000, as planned' },
    { keyword: 'OBJCTRA', value: formatRightAscension(step.raDeg) },
    { keyword: 'OBJCTDEC', value: formatDeclination(step.decDeg) },
    { keyword: 'OBJCTROT', value: step.positionAngleDeg, comment: 'deg, as planned' },
    { keyword: 'EQUINOX', value: 2000 },
    { keyword: 'AIRMASS', value: Math.round(1000 * airmass) / 1000 },
    { keyword: 'PIERSIDE', value: pierSide.toUpperCase() },
    ...(focusSteps === null ? [] : [{ keyword: 'FOCUSPOS', value: focusSteps, comment: 'steps' }]),
    ...angleCards(mechanicalAngleDeg),
    { keyword: 'FOCALLEN', value: optics.focalLengthMm, comment: 'mm' },
    { keyword: 'APTDIA', value: optics.apertureMm, comment: 'mm' },
    ...rigCards(rigName, { optics, isSimulated }, step.binning),
    ...(figures.halfFluxRadiusPx === null
      ? []
      : [{ keyword: 'HFR', value: Math.round(100 * figures.halfFluxRadiusPx) / 100, comment: 'px' }]),
  ];
}

const angleCards = (mechanicalAngleDeg: number | undefined): WrittenCard[] =>
  mechanicalAngleDeg === undefined
    ? []
    : [
        {
          keyword: 'ROTATANG',
          value: Math.round(100 * mechanicalAngleDeg) / 100,
          comment: 'deg, of the camera on the telescope',
        },
      ];

const calibrationCards = (rigName: string, deviceRun: DeviceRun, taken: CalibrationFrame): WrittenCard[] => [
  { keyword: 'IMAGETYP', value: taken.kind.toUpperCase() },
  ...(taken.filterLetter === null ? [] : [{ keyword: 'FILTER', value: taken.filterLetter }]),
  ...readingCards(taken),
  ...angleCards(taken.mechanicalAngleDeg),
  ...rigCards(rigName, deviceRun, taken.binning),
];

/** How and when the sensor was read. */
const readingCards = (
  { startUtcMs, exposureSec, sensorC, gain, offset, binning }: Omit<CalibrationFrame, 'kind' | 'filterLetter'>, // prettier-ignore
): WrittenCard[] => [
  { keyword: 'DATE-OBS', value: new Date(startUtcMs).toISOString().slice(0, -1), comment: 'UTC' },
  { keyword: 'TIMESYS', value: 'UTC' },
  { keyword: 'EXPTIME', value: exposureSec, comment: 's' },
  { keyword: 'GAIN', value: gain },
  { keyword: 'OFFSET', value: offset },
  { keyword: 'XBINNING', value: binning },
  { keyword: 'YBINNING', value: binning },
  { keyword: 'CCD-TEMP', value: Math.round(10 * sensorC) / 10, comment: 'deg C' },
];

const rigCards = (
  rigName: string,
  { optics, isSimulated }: Pick<DeviceRun, 'optics' | 'isSimulated'>,
  binning: number,
): WrittenCard[] => [
  { keyword: 'XPIXSZ', value: optics.pixelUm * binning, comment: 'um' },
  { keyword: 'YPIXSZ', value: optics.pixelUm * binning, comment: 'um' },
  { keyword: 'TELESCOP', value: rigName.slice(0, 60) },
  ...(isSimulated ? [{ keyword: SIMULATED_KEYWORD, value: true, comment: 'no real sky' }] : []),
];
