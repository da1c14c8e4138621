import type { Rig } from '@meridiem/contract';
import type { Fit } from '@meridiem/core';
import { useEffect, useState } from 'react';
import { degrees, percent } from '../../../words/format.ts';
import type { FitReply } from '../fit-worker.ts';
import type { Composition } from '../view-model.ts';
import { fitWish, MOST_SIDE } from '../view-model.ts';

interface FitForMeProps {
  readonly composition: Composition;
  readonly rig: Rig;
  readonly onTake: (changes: Partial<Composition>) => void;
}

/** The angle and the fewest panels for the subjects, and what fewer would lose; worked out in a worker. */
export function FitForMe({ composition, rig, onTake }: FitForMeProps) {
  const [wanted, setWanted] = useState(0);
  const [found, setFound] = useState<FitReply | null>(null);
  useEffect(() => {
    if (wanted === 0) return;
    const worker = new Worker(new URL('../fit-worker.ts', import.meta.url), { type: 'module' });
    worker.onmessage = ({ data }: MessageEvent<FitReply>) => setFound(data);
    worker.postMessage(fitWish(composition, rig));
    return () => worker.terminate();
  }, [wanted]); // eslint-disable-line react-hooks/exhaustive-deps -- asked for by hand, of what stands there then
  const take =
    ({ rows, cols, centre, positionAngleDeg }: Fit) =>
    (): void =>
      onTake({ rows, cols, centre, positionAngleDeg });
  const isShown = found !== null;
  const several = composition.others.length > 0;
  return (
    <section aria-label="Suggest a layout">
      <button type="button" className="act" onClick={() => setWanted((count) => count + 1)}>
        {several ? 'Suggest a layout for all' : 'Suggest a layout for the subject'}
      </button>
      {isShown && several && <p className="mt-2">{togetherWords(found.fit, composition)}</p>}
      {isShown && (
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
      {isShown && !found.fit && <p className="text-signal">Even {MOST_SIDE} rows and columns don’t hold this.</p>}
    </section>
  );
}

/** Whether several subjects go into one field, and how. */
function togetherWords(fit: Fit | null, { subject, others }: Composition): string {
  const names = [subject, ...others].map(({ name }) => name || 'the subject');
  const all = `${names.slice(0, -1).join(', ')} and ${names.at(-1)}`;
  if (!fit) return `${all} are too far apart for one mosaic: frame them as projects of their own.`;
  if (fit.rows * fit.cols === 1) return `${all} fit into one field at ${degrees(fit.positionAngleDeg, 0)}.`;
  return `${all} don’t fit into one field; together they take ${fit.rows} × ${fit.cols} panels at ${degrees(fit.positionAngleDeg, 0)}.`;
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
