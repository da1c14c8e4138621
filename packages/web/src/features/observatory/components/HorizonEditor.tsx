import type { HorizonPoint } from '@meridiem/core';
import { formatHorizonFile, horizonAltitudeDeg, horizonProfile } from '@meridiem/core';
import { useState } from 'react';
import { wordsOf } from '../../../app/api.ts';
import type { ObservatoryChanges } from '../queries.ts';

interface HorizonEditorProps {
  readonly points: readonly HorizonPoint[];
  readonly mayEdit: boolean;
  readonly changes: ObservatoryChanges;
}

const WIDTH = 540;
const HEIGHT = 120;
const TOP_DEG = 60;

/** What stands around the site: drawn from north over east back to north, edited as the file it comes from. */
export function HorizonEditor({ points, mayEdit, changes }: HorizonEditorProps) {
  const [text, setText] = useState<string | null>(null);
  const [asSeen, setAsSeen] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const profile = horizonProfile(points);
  const outline = Array.from(
    { length: 361 },
    (_, azimuth) =>
      `${((azimuth / 360) * WIDTH).toFixed(1)} ${(HEIGHT * (1 - Math.max(0, horizonAltitudeDeg(profile, azimuth)) / TOP_DEG)).toFixed(1)}`,
  );
  const save = async (): Promise<void> => {
    try {
      await changes.horizon(text ?? '', asSeen);
      setText(null);
      setProblem(null);
    } catch (error) {
      setProblem(wordsOf(error));
    }
  };
  return (
    <section aria-label="Horizon">
      <h2 className="text-xl">Horizon</h2>
      <svg
        viewBox={`0 -4 ${WIDTH} ${HEIGHT + 22}`}
        className="mt-2 w-full"
        role="img"
        aria-label={`Horizon of ${points.length} points, up to ${Math.max(0, ...points.map((point) => point.altitudeDeg)).toFixed(0)} degrees high`}
      >
        {[30, 60].map((altitude) => (
          <g key={altitude}>
            <line
              x1={0}
              x2={WIDTH}
              y1={HEIGHT * (1 - altitude / TOP_DEG)}
              y2={HEIGHT * (1 - altitude / TOP_DEG)}
              stroke="var(--hairline)"
            />
            <text x={2} y={HEIGHT * (1 - altitude / TOP_DEG) + 11} fontSize={11} fill="var(--ink-soft)">
              {altitude}°
            </text>
          </g>
        ))}
        <path
          d={`M0 ${HEIGHT}L${outline.join('L')}L${WIDTH} ${HEIGHT}Z`}
          fill="var(--hairline)"
          stroke="var(--ink)"
          strokeWidth={1}
        />
        {['N', 'E', 'S', 'W', 'N'].map((name, i) => (
          <text
            key={i}
            x={Math.min(WIDTH - 8, Math.max(4, (i / 4) * WIDTH))}
            y={HEIGHT + 15}
            fontSize={12}
            textAnchor="middle"
            fill="var(--ink-soft)"
          >
            {name}
          </text>
        ))}
      </svg>
      {mayEdit && text === null && (
        <button type="button" className="act mt-2" onClick={() => setText(formatHorizonFile(points))}>
          Edit points
        </button>
      )}
      {text !== null && (
        <div className="mt-2 grid gap-2">
          <label className="grid gap-1">
            <span className="text-soft">
              A point a line: azimuth from north through east, altitude, in degrees; any order, # for remarks
            </span>
            <textarea
              rows={8}
              className="font-mono text-sm"
              value={text}
              onChange={(event) => setText(event.target.value)}
              aria-invalid={problem !== null}
            />
          </label>
          <label>
            <input type="checkbox" checked={asSeen} onChange={(event) => setAsSeen(event.target.checked)} /> measured as
            seen through air (converted once to geometric altitude)
          </label>
          {problem && (
            <p role="alert" className="text-signal">
              {problem}
            </p>
          )}
          <p className="flex gap-2">
            <button type="button" className="act act-strong" onClick={() => void save()}>
              Save horizon
            </button>
            <button type="button" className="act" onClick={() => setText(null)}>
              Cancel
            </button>
          </p>
        </div>
      )}
    </section>
  );
}
