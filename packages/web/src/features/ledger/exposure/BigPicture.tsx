import type { PartName } from '@meridiem/core';
import { PARTS } from '@meridiem/core';
import { useState } from 'react';
import { pictureAddress } from './address.ts';

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
}

/** The exposure large, and parts of it at its own pixels: stars in the corners tell what the middle hides. */
export function BigPicture({ id, name }: BigPictureProps) {
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
      <img
        src={pictureAddress(id, part, part === 'whole' ? SIDE_PX : CORNER_PX)}
        alt={`${name}, ${PART_WORDS[part].toLowerCase()}`}
        className="mt-2 max-h-[70vh] max-w-full"
        style={{ imageRendering: part === 'whole' ? 'auto' : 'pixelated' }}
      />
      <figcaption className="text-sm text-soft">
        Brightened for looking at; the data are as they were taken. Rows as the file has them, its last one on top.
      </figcaption>
    </figure>
  );
}
