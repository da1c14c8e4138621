import type { ExposurePage } from '@meridiem/contract';
import type { PartName } from '@meridiem/core';
import { PARTS } from '@meridiem/core';
import { useState } from 'react';
import { pictureAddress } from './address.ts';
import { trailEdges, trailWords } from './view-model.ts';

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

interface BigPictureProps {
  readonly id: string;
  readonly name: string;
  /** null: its pixels were not measured. */
  readonly figures: ExposurePage['figures'];
}

/** The exposure large, and parts of it at its own pixels: stars in the corners tell what the middle hides. */
export function BigPicture({ id, name, figures }: BigPictureProps) {
  const [part, setPart] = useState<PartName>('whole');
  return (
    <figure>
      <div role="group" aria-label="Part of the picture" className="flex flex-wrap gap-1">
        {PARTS.map((one) => (
          <button
            key={one}
            type="button"
            className={part === one ? 'act act-strong' : 'act'}
            aria-pressed={part === one}
            onClick={() => setPart(one)}
          >
            {PART_WORDS[one]}
          </button>
        ))}
      </div>
      <div className="relative mt-2 w-fit">
        <img
          src={pictureAddress(id, part, part === 'whole' ? SIDE_PX : CORNER_PX)}
          alt={`${name}, ${PART_WORDS[part].toLowerCase()}`}
          className="max-h-[70vh] max-w-full"
          style={{ imageRendering: part === 'whole' ? 'auto' : 'pixelated' }}
        />
        {part === 'whole' && figures && figures.trails.length > 0 && <TrailMarks figures={figures} />}
      </div>
      <figcaption className="text-sm text-soft">
        Brightened for looking at; the data are as they were taken. Rows as the file has them, its last one on top.
      </figcaption>
    </figure>
  );
}

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
