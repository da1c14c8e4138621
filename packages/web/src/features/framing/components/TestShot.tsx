import type { Rig } from '@meridiem/contract';
import type { HeaderWcs, SkyPosition } from '@meridiem/core';
import {
  angleBetweenDeg,
  CoreError,
  cornersOf,
  fieldOf,
  readFitsHeaders,
  shotOffset,
  unitVector,
  wcsOf,
} from '@meridiem/core';
import { useState } from 'react';
import { degrees } from '../../../words/format.ts';
import type { Composition, Framed } from '../view-model.ts';
import { movedLike } from '../view-model.ts';

interface TestShotProps {
  readonly composition: Composition;
  readonly framed: Framed;
  readonly rig: Rig;
  readonly onShow: (corners: readonly SkyPosition[] | null) => void;
  readonly onTake: (changes: Partial<Composition>) => void;
}

const HEADER_BYTES = 512 * 1024;

/** A short frame with its plate solution beside what was intended: how far off, and the frame taken over from it. */
export function TestShot({ composition, framed, rig, onShow, onTake }: TestShotProps) {
  const [shot, setShot] = useState<(HeaderWcs & { readonly file: string }) | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const open = async (file: File | undefined): Promise<void> => {
    setShot(null);
    setProblem(null);
    onShow(null);
    if (!file) return;
    try {
      const wcs = await solutionOf(file, rig);
      setShot({ ...wcs, file: file.name });
      onShow(cornersOf({ ...fieldOf(rig), centre: wcs.centre, positionAngleDeg: wcs.positionAngleDeg }));
    } catch (error) {
      setProblem(
        error instanceof CoreError
          ? `${file.name} can’t be read as a FITS picture: ${error.message}`
          : (error as Error).message,
      );
    }
  };
  const nearest = shot && nearestPanel(framed, shot.centre);
  const offset = shot && nearest && shotOffset(sensorOf(nearest, rig), shot);
  return (
    <section aria-label="Test shot">
      <label className="block">
        A FITS picture with its plate solution
        <input
          type="file"
          accept=".fits,.fit,.fts,.gz"
          className="mt-1 block w-full"
          onChange={({ target }) => void open(target.files?.[0])}
        />
      </label>
      {problem && (
        <p role="alert" className="mt-1 text-signal">
          {problem}
        </p>
      )}
      {shot && offset && nearest && (
        <>
          <p className="mt-2" role="status">
            {shot.file} stands {offset.arcmin.toFixed(1)}′ from{' '}
            {framed.panels.length === 1 ? 'the frame' : `panel ${framed.panels.indexOf(nearest) + 1}`}:{' '}
            {pixels(offset.rightPx, 'right', 'left')}, {pixels(offset.upPx, 'up', 'down')}, turned by{' '}
            {degrees(offset.turnedDeg)}.
          </p>
          <button
            type="button"
            className="act mt-2"
            onClick={() => onTake(movedLike(composition, nearest, shot, offset.turnedDeg))}
          >
            Use the shot’s position and angle
          </button>
        </>
      )}
      {shot && !offset && <p className="mt-2 text-signal">{shot.file} shows another part of the sky altogether.</p>}
    </section>
  );
}

const pixels = (value: number, positive: string, negative: string): string =>
  `${Math.abs(Math.round(value))} px ${value >= 0 ? positive : negative}`;

/** @throws CoreError where it is no FITS file, Error in words where it isn't solved */
async function solutionOf(file: File, rig: Rig): Promise<HeaderWcs> {
  const bytes = new Uint8Array(await file.slice(0, HEADER_BYTES).arrayBuffer());
  for (const { cards } of readFitsHeaders(bytes, file.size).units) {
    const wcs = wcsOf(cards, rig.widthPx, rig.heightPx);
    if (wcs) return wcs;
  }
  throw new Error(`${file.name} carries no plate solution (CRVAL, CRPIX, CD): solve it first`);
}

const sensorOf = ({ centre, positionAngleDeg }: Framed['panels'][number], rig: Rig) => ({
  centre,
  positionAngleDeg,
  scaleArcsecPerPx: fieldOf(rig).imageScaleArcsecPerPx,
  widthPx: rig.widthPx,
  heightPx: rig.heightPx,
});

const nearestPanel = ({ panels }: Framed, place: SkyPosition): Framed['panels'][number] =>
  panels.reduce((a, b) =>
    angleBetweenDeg(unitVector(b.centre), unitVector(place)) < angleBetweenDeg(unitVector(a.centre), unitVector(place))
      ? b
      : a,
  );
