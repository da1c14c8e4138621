import type { PointerEvent } from 'react';
import type { SkyView } from '../../../sky-field/projection.ts';
import { pixelsOf, toScreen } from '../../../sky-field/projection.ts';
import { pathOf } from '../../../sky-field/paths.ts';
import type { Composition, Framed } from '../view-model.ts';

interface PanelsProps {
  readonly view: SkyView;
  readonly composition: Composition;
  readonly framed: Framed;
  readonly onTake: (kind: 'move' | 'turn') => (event: PointerEvent<SVGElement>) => void;
}

/** The turning handle stands this far beyond the upper edge, as a share of the composition's reach. */
const HANDLE_REACH = 1.12;

/** The panels with their numbers and the handle that turns them; what neighbours share is tinted twice. */
export function Panels({ view, composition, framed, onTake }: PanelsProps) {
  const middle = toScreen(view, composition.centre);
  const angle = (composition.positionAngleDeg * Math.PI) / 180;
  const reachPx = pixelsOf(view, framed.reachDeg * HANDLE_REACH);
  return (
    <>
      <g onPointerDown={onTake('move')} className="cursor-move" data-panels>
        {framed.panels.map((panel, i) => {
          const centre = toScreen(view, panel.centre);
          return (
            <g key={`${panel.row} ${panel.col}`}>
              <path
                d={pathOf(view, panel.corners)}
                fill="color-mix(in srgb, var(--moon) 13%, transparent)"
                stroke="var(--sky-ink)"
                strokeWidth={1.2}
              />
              {framed.panels.length > 1 && centre && (
                <text
                  x={centre.x}
                  y={centre.y}
                  fill="var(--sky-ink)"
                  fontSize={13}
                  textAnchor="middle"
                  dominantBaseline="central"
                >
                  {i + 1}
                </text>
              )}
            </g>
          );
        })}
      </g>
      {middle && (
        <g onPointerDown={onTake('turn')} className="cursor-alias" data-panels data-handle>
          <line
            x1={middle.x}
            y1={middle.y}
            x2={middle.x - Math.sin(angle) * reachPx}
            y2={middle.y - Math.cos(angle) * reachPx}
            stroke="var(--moon)"
            strokeWidth={0.8}
            strokeDasharray="1 4"
            className="pointer-events-none"
          />
          <circle
            cx={middle.x - Math.sin(angle) * reachPx}
            cy={middle.y - Math.cos(angle) * reachPx}
            r={7}
            fill="var(--sky-night)"
            stroke="var(--moon)"
            strokeWidth={1.6}
          />
        </g>
      )}
    </>
  );
}
