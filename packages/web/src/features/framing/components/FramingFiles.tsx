import type { Rig } from '@meridiem/contract';
import { panelName } from '@meridiem/contract';
import { fieldOf, gridOf, planeSides, readFramingText, writePanels, writeRegion, writeWcsHeader } from '@meridiem/core';
import { useState } from 'react';
import { wordsOf } from '../../../app/api.ts';
import type { Composition, Framed, FramedSubject } from '../view-model.ts';

interface FramingFilesProps {
  readonly composition: Composition;
  readonly framed: Framed;
  readonly rig: Rig;
  readonly onTake: (changes: Partial<Composition>) => void;
  readonly onSubject: (subject: FramedSubject) => void;
}

/** The panels for other programs, and a frame, an outline or a list of panels from them. */
export function FramingFiles({ composition, framed, rig, onTake, onSubject }: FramingFilesProps) {
  const [text, setText] = useState('');
  const [answer, setAnswer] = useState<{ words: string; isProblem: boolean } | null>(null);
  const name = composition.targetName || 'frame';
  const nameOf = (i: number): string => panelName(name, i + 1, framed.panels.length);
  const exports: readonly [words: string, file: string, write: () => string][] = [
    [
      'panels as CSV',
      'panels.csv',
      () => writePanels(framed.panels.map((panel, i) => ({ ...panel, name: nameOf(i) }))),
    ],
    [
      'outlines as s_region',
      'regions.txt',
      () => `${framed.panels.map(({ corners }) => writeRegion(corners)).join('\n')}\n`,
    ],
    ...framed.panels.slice(0, MOST_HEADERS).map(({ centre, positionAngleDeg }, i): [string, string, () => string] => [
      framed.panels.length === 1 ? 'FITS cards' : `FITS cards of panel ${i + 1}`,
      `${i + 1}.wcs`,
      () =>
        writeWcsHeader(
          {
            centre,
            positionAngleDeg,
            scaleArcsecPerPx: fieldOf(rig).imageScaleArcsecPerPx,
            widthPx: rig.widthPx,
            heightPx: rig.heightPx,
          },
          nameOf(i),
        ),
    ]),
  ];
  const take = (given: string): void => {
    try {
      setAnswer({ words: takeOver(given, { composition, rig, onTake, onSubject }), isProblem: false });
    } catch (error) {
      setAnswer({ words: wordsOf(error), isProblem: true });
    }
  };
  return (
    <section aria-label="Files">
      <ul className="flex flex-wrap gap-x-3 gap-y-1">
        {exports.map(([words, file, write]) => (
          <li key={words}>
            <a
              className="word-link"
              download={`${name} ${file}`}
              href={`data:text/plain;charset=utf-8,${encodeURIComponent(write())}`}
            >
              {words}
            </a>
          </li>
        ))}
      </ul>
      <label className="mt-3 grid gap-0.5">
        FITS cards, an s_region or a table of panels from elsewhere
        <textarea
          rows={3}
          value={text}
          onChange={(event) => setText(event.target.value)}
          placeholder="POLYGON ICRS 10.1 -25.2 …"
        />
      </label>
      <p className="mt-1 flex flex-wrap items-baseline gap-3">
        <button type="button" className="act" onClick={() => take(text)}>
          Use it
        </button>
        <input
          type="file"
          aria-label="From a file"
          className="max-w-[200px]"
          onChange={({ target }) =>
            void target.files?.[0]?.text().then((read) => (setText(read.slice(0, SHOWN)), take(read)))
          }
        />
      </p>
      {answer && (
        <p role={answer.isProblem ? 'alert' : 'status'} className={answer.isProblem ? 'text-signal' : ''}>
          {answer.words}
        </p>
      )}
    </section>
  );
}

const MOST_HEADERS = 9;
const SHOWN = 20_000;

/** Puts what a text says into the composition and tells what it was.
 * @throws CoreError where it says nothing, Error in words where panels make no grid */
function takeOver(
  text: string,
  { composition, rig, onTake, onSubject }: Pick<FramingFilesProps, 'composition' | 'rig' | 'onTake' | 'onSubject'>,
): string {
  const read = readFramingText(text, rig);
  const { subject } = composition;
  if (read.kind === 'frame') {
    onTake({ centre: read.centre, positionAngleDeg: read.positionAngleDeg });
    return 'Centre and angle taken over from the cards.';
  }
  if (read.kind === 'outline') {
    const [first] = read.outline;
    onSubject({ ...subject, ...first, outline: read.outline });
    return `An outline of ${read.outline.length} corners is the subject now.`;
  }
  if (read.kind === 'circle') {
    onSubject({ ...subject, ...read.centre, outline: null, sizeArcmin: 120 * read.radiusDeg });
    return 'The circle is the subject now.';
  }
  const grid = gridOf(read.panels, planeSides(rig));
  if (!grid)
    throw new Error(
      `These ${read.panels.length} panels are no rows and columns of ${rig.name}: choose the rig they were framed with, or frame them one by one`,
    );
  const { rows, cols, centre, positionAngleDeg, overlapShare, layout } = grid;
  onTake({ rows, cols, centre, positionAngleDeg, overlapPercent: 100 * overlapShare, layout });
  return `${read.panels.length} panels taken over as ${rows} × ${cols}.`;
}
