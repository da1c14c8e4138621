import type { PixelPlace, SensorOnSky, SkyPosition, StarPair } from '@meridiem/core';
import { formatDeclination, formatRightAscension, placedByCards, placedPicture } from '@meridiem/core';
import { useState } from 'react';
import { degrees } from '../../../words/format.ts';
import type { Composition } from '../view-model.ts';

/** A picture of somebody's, laid on the sky. */
export interface LaidPicture {
  readonly address: string;
  readonly sensor: SensorOnSky;
  readonly strength: number;
}

interface ReferencePictureProps {
  readonly laid: LaidPicture | null;
  /** Asks for a click on the sky; the star nearest to it is told. */
  readonly onPickStar: (then: ((star: SkyPosition) => void) | null) => void;
  readonly onLay: (laid: LaidPicture | null) => void;
  readonly onTake: (changes: Partial<Composition>) => void;
}

interface Opened {
  readonly address: string;
  readonly name: string;
  readonly widthPx: number;
  readonly heightPx: number;
}

/** A published picture to go by: placed on the sky by its own plate solution, or by two stars that are recognised in it. It stays on this device. */
export function ReferencePicture({ laid, onPickStar, onLay, onTake }: ReferencePictureProps) {
  const [opened, setOpened] = useState<Opened | null>(null);
  const [seen, setSeen] = useState<readonly PixelPlace[]>([]);
  const [pairs, setPairs] = useState<readonly StarPair[]>([]);
  const [problem, setProblem] = useState<string | null>(null);
  const begin = (): void => {
    setSeen([]);
    setPairs([]);
    setProblem(null);
    onPickStar(null);
    onLay(null);
  };
  const open = async (file: File | undefined): Promise<void> => {
    begin();
    setOpened(null);
    if (!file) return;
    try {
      const bitmap = await createImageBitmap(file);
      setOpened({
        address: URL.createObjectURL(file),
        name: file.name,
        widthPx: bitmap.width,
        heightPx: bitmap.height,
      });
    } catch {
      setProblem(`${file.name} can’t be read as a picture: a PNG, JPEG or WebP is wanted`);
    }
  };
  const pair = (picture: Opened, at: PixelPlace, known: readonly StarPair[]): void => {
    setSeen([...known.map((one) => one.at), at]);
    onPickStar((star) => {
      onPickStar(null);
      const next = [...known, { at, star }];
      setPairs(next);
      if (next.length < 2) return;
      const sensor = placedPicture([next[0], next[1]], picture);
      if (sensor) onLay({ address: picture.address, sensor, strength: 0.6 });
      else setProblem('That was one star twice: choose two that are far apart');
    });
  };
  const placeByCards = async (picture: Opened, file: File | undefined): Promise<void> => {
    if (!file) return;
    setProblem(null);
    onPickStar(null);
    try {
      // A header is ASCII; of a whole FITS file its head is enough.
      const cards = await file.slice(0, MOST_CARDS_BYTES).text();
      onLay({ address: picture.address, sensor: placedByCards(cards, picture), strength: 0.6 });
    } catch (error) {
      setProblem(`${file.name}: ${error instanceof Error ? error.message : 'can’t be read'}`);
    }
  };
  const step = STEPS[Math.min(3, 2 * pairs.length + (seen.length > pairs.length ? 1 : 0))];
  return (
    <section aria-label="Reference picture">
      <label className="block">
        A published picture
        <input
          type="file"
          accept="image/png,image/jpeg,image/webp"
          className="mt-1 block w-full"
          onChange={({ target }) => void open(target.files?.[0])}
        />
      </label>
      {problem && (
        <p role="alert" className="mt-1 text-signal">
          {problem}
        </p>
      )}
      {opened && !laid && (
        <>
          <p role="status" className="mt-2">
            {step}
          </p>
          <div className="relative mt-1 cursor-crosshair">
            <img
              src={opened.address}
              alt={opened.name}
              className="block w-full"
              style={{ aspectRatio: `${opened.widthPx} / ${opened.heightPx}` }}
              onClick={(event) => {
                const box = event.currentTarget.getBoundingClientRect();
                const x = ((event.clientX - box.left) / box.width) * opened.widthPx;
                const y = (1 - (event.clientY - box.top) / box.height) * opened.heightPx;
                if (pairs.length < 2) pair(opened, { x, y }, pairs);
              }}
            />
            {seen.map(({ x, y }, i) => (
              <span
                key={i}
                className="pointer-events-none absolute size-4 -translate-1/2 rounded-full border-2 border-brass"
                style={{ left: `${(100 * x) / opened.widthPx}%`, top: `${100 - (100 * y) / opened.heightPx}%` }}
              />
            ))}
          </div>
          <button type="button" className="act mt-2" onClick={begin}>
            Begin again
          </button>
          <label className="mt-3 block">
            Or its plate solution, as FITS cards
            <input
              type="file"
              accept=".wcs,.txt,.hdr,.fits,.fit,text/plain"
              className="mt-1 block w-full"
              onChange={({ target }) => void placeByCards(opened, target.files?.[0])}
            />
          </label>
        </>
      )}
      {laid && (
        <>
          <p role="status" className="mt-2">
            {formatRightAscension(laid.sensor.centre.raDeg)}, {formatDeclination(laid.sensor.centre.decDeg)} at{' '}
            {degrees(laid.sensor.positionAngleDeg)}, {laid.sensor.scaleArcsecPerPx.toFixed(2)}″/px
          </p>
          <label className="mt-1 flex items-center gap-2">
            <span className="text-soft">strength</span>
            <input
              type="range"
              min={0.1}
              max={1}
              step={0.1}
              className="accent-[var(--brass)]"
              value={laid.strength}
              onChange={({ target }) => onLay({ ...laid, strength: target.valueAsNumber })}
            />
          </label>
          <p className="mt-2 flex flex-wrap gap-3">
            <button
              type="button"
              className="act"
              onClick={() => onTake({ centre: laid.sensor.centre, positionAngleDeg: laid.sensor.positionAngleDeg })}
            >
              Frame the same
            </button>
            <button type="button" className="act" onClick={begin}>
              Place it again
            </button>
          </p>
        </>
      )}
    </section>
  );
}

const MOST_CARDS_BYTES = 200 * 1024;

const STEPS = [
  'Click a star in the picture.',
  'Now click the same star on the sky.',
  'Click another star in the picture, far from the first.',
  'Now click that one on the sky.',
];
