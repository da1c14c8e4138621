import type { Rig } from '@meridiem/contract';
import type { Alternative, Fit, FitWish } from '@meridiem/core';
import { alternatives, fitPanels, planeSides } from '@meridiem/core';
import { useState } from 'react';
import { degrees, percent } from '../../../words/format.ts';
import type { Composition } from '../view-model.ts';
import { MOST_SIDE } from '../view-model.ts';

interface FitForMeProps {
  readonly composition: Composition;
  readonly rig: Rig;
  readonly onTake: (changes: Partial<Composition>) => void;
}

const LAYOUTS = [
  [1, 1],
  [1, 2],
  [2, 1],
  [2, 2],
] as const;
const MARGIN = 0.08;
/** Of a subject whose size nobody knows. */
const USUAL_SIZE_ARCMIN = 10;

/** The angle and the fewest panels for the subject, and what fewer would lose. */
export function FitForMe({ composition, rig, onTake }: FitForMeProps) {
  const [found, setFound] = useState<{ fit: Fit | null; others: readonly Alternative[] } | null>(null);
  const fit = (): void => {
    const wish = fitWish(composition, rig);
    setFound({ fit: fitPanels(wish), others: alternatives(wish, LAYOUTS) });
  };
  const take =
    ({ rows, cols, centre, positionAngleDeg }: Fit) =>
    (): void =>
      onTake({ rows, cols, centre, positionAngleDeg });
  return (
    <section aria-label="Fit for me" className="mt-4">
      <button type="button" className="act" onClick={fit}>
        Fit the subject for me
      </button>
      {found && (
        <table className="mt-2 w-full">
          <thead>
            <tr className="rule">
              <th>rows × columns</th>
              <th className="text-right">angle</th>
              <th className="text-right">inside</th>
              <th className="text-right">hours</th>
              <th aria-label="Take it" />
            </tr>
          </thead>
          <tbody>
            {found.fit && <Row words="fits" fit={found.fit} insideShare={1} onTake={take(found.fit)} />}
            {found.others
              .filter(({ rows, cols }) => !found.fit || rows * cols <= found.fit.rows * found.fit.cols)
              .filter(({ rows, cols }) => rows !== found.fit?.rows || cols !== found.fit.cols)
              .map((other) => (
                <Row
                  key={`${other.rows} ${other.cols}`}
                  words=""
                  fit={other}
                  insideShare={other.insideShare}
                  onTake={take(other)}
                />
              ))}
          </tbody>
        </table>
      )}
      {found && !found.fit && <p className="text-signal">Even {MOST_SIDE} rows and columns don’t hold this subject.</p>}
    </section>
  );
}

function Row({
  words,
  fit,
  insideShare,
  onTake,
}: {
  words: string;
  fit: Fit;
  insideShare: number;
  onTake: () => void;
}) {
  return (
    <tr className="rule">
      <td>
        <Shape rows={fit.rows} cols={fit.cols} angleDeg={fit.positionAngleDeg} /> {fit.rows} × {fit.cols}{' '}
        <span className="text-soft">{words}</span>
      </td>
      <td className="text-right">{degrees(fit.positionAngleDeg, 0)}</td>
      <td className="text-right">{percent(insideShare)}</td>
      <td className="text-right">{fit.rows * fit.cols} ×</td>
      <td>
        <button type="button" className="act" aria-label={`Take ${fit.rows} × ${fit.cols}`} onClick={onTake}>
          Take
        </button>
      </td>
    </tr>
  );
}

/** The layout in little, turned as it would be on the sky. */
function Shape({ rows, cols, angleDeg }: { rows: number; cols: number; angleDeg: number }) {
  const side = 16 / Math.max(rows, cols);
  return (
    <svg width={24} height={24} viewBox="-12 -12 24 24" aria-hidden className="mr-1 inline-block align-middle">
      <g transform={`rotate(${-angleDeg})`} fill="none" stroke="var(--ink-soft)">
        {Array.from({ length: rows * cols }, (_, i) => (
          <rect
            key={i}
            x={((i % cols) - cols / 2) * side}
            y={(Math.floor(i / cols) - rows / 2) * side * 0.7}
            width={side}
            height={side * 0.7}
          />
        ))}
      </g>
    </svg>
  );
}

/** A camera that nobody turns keeps its angle; one that is turned by hand may be. */
export function fitWish({ subject, overlapPercent, layout }: Composition, rig: Rig): FitWish {
  return {
    subjects: [{ centre: subject, radiusDeg: (subject.sizeArcmin ?? USUAL_SIZE_ARCMIN) / 120 }],
    ...planeSides(rig),
    overlapShare: overlapPercent / 100,
    marginShare: MARGIN,
    layout,
    mostSide: MOST_SIDE,
    ...(rig.rotatorKind === 'none' && rig.skyAngleDeg !== null ? { fixedAngleDeg: rig.skyAngleDeg } : {}),
  };
}
