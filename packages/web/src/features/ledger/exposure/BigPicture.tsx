import type { CalibrationDegree, ExposurePage } from '@meridiem/contract';
import type { PartName } from '@meridiem/core';
import { PARTS } from '@meridiem/core';
import { useState } from 'react';
import { pictureAddress } from './address.ts';
import { degreeChoices, pictureCaption, trailEdges, trailWords } from './view-model.ts';

const PART_WORDS: Readonly<Record<PartName, string>> = {
  whole: 'Whole',
  centre: 'Centre, 1:1',
  'top-left': 'Top left',
  'top-right': 'Top right',
  'bottom-left': 'Bottom left',
  'bottom-right': 'Bottom right',
};
const SIDE_PX = 900;
const CORNER_PX = 440;

interface BigPictureProps extends Pick<ExposurePage, 'figures' | 'calibrated'> {
  readonly id: string;
  readonly name: string;
}

/** The exposure large, and parts of it at its own pixels: stars in the corners tell what the middle hides. */
export function BigPicture({ id, name, figures, calibrated }: BigPictureProps) {
  const [part, setPart] = useState<PartName>('whole');
  const [degree, setDegree] = useState<CalibrationDegree>('none');
  const address = pictureAddress(id, part, part === 'whole' ? SIDE_PX : CORNER_PX, degree);
  // What the browser has last got, and whether it could be drawn.
  const [drawn, setDrawn] = useState({ address: '', isThere: true });
  return (
    <figure>
      <div role="group" aria-label="Part of the picture" className="flex flex-wrap gap-1">
        {PARTS.map((one) => (
          <Choice key={one} isChosen={part === one} onChoose={() => setPart(one)} words={PART_WORDS[one]} />
        ))}
      </div>
      {calibrated && (
        <div role="group" aria-label="Calibration for looking" className="mt-1 flex flex-wrap items-baseline gap-1">
          {degreeChoices(calibrated).map((choice) => (
            <Choice
              key={choice.degree}
              isChosen={degree === choice.degree}
              isPossible={choice.isPossible}
              onChoose={() => setDegree(choice.degree)}
              words={choice.words}
            />
          ))}
          <span className="text-sm text-soft" role="status">
            {drawn.address === address ? '' : 'drawing…'}
          </span>
        </div>
      )}
      <div className="relative mt-2 w-fit">
        <img
          src={address}
          alt={`${name}, ${PART_WORDS[part].toLowerCase()}`}
          className="max-h-[70vh] max-w-full"
          style={{ imageRendering: part === 'whole' ? 'auto' : 'pixelated' }}
          onLoad={() => setDrawn({ address, isThere: true })}
          onError={() => setDrawn({ address, isThere: false })}
        />
        {part === 'whole' && figures && figures.trails.length > 0 && <TrailMarks figures={figures} />}
      </div>
      {!drawn.isThere && drawn.address === address && (
        <p role="alert" className="text-signal">
          The picture could not be drawn{degree === 'none' ? '.' : '; look at it as taken instead.'}
        </p>
      )}
      <figcaption className="text-sm text-soft">{pictureCaption(degree, calibrated)}</figcaption>
    </figure>
  );
}

interface ChoiceProps {
  readonly isChosen: boolean;
  readonly isPossible?: boolean;
  readonly onChoose: () => void;
  readonly words: string;
}

const Choice = ({ isChosen, isPossible = true, onChoose, words }: ChoiceProps) => (
  <button
    type="button"
    className={isChosen ? 'act act-strong' : 'act'}
    aria-pressed={isChosen}
    disabled={!isPossible}
    onClick={onChoose}
  >
    {words}
  </button>
);

/** Each trail between two lines. */
function TrailMarks({ figures }: { readonly figures: NonNullable<ExposurePage['figures']> }) {
  return (
    <svg
      role="img"
      aria-label={trailWords(figures.trails)}
      viewBox={`0 0 ${figures.widthPx} ${figures.heightPx}`}
      preserveAspectRatio="none"
      className="pointer-events-none absolute inset-0 h-full w-full"
    >
      {trailEdges(figures).map((edge) => (
        <line
          key={`${edge.x1} ${edge.y1}`}
          {...edge}
          stroke="var(--brass)"
          strokeWidth={1.5}
          strokeDasharray="7 5"
          vectorEffect="non-scaling-stroke"
        />
      ))}
    </svg>
  );
}
