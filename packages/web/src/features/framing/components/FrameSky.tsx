import type { ResponseOf, catalogueAround } from '@meridiem/contract';
import type { SkyPosition } from '@meridiem/core';
import { formatDeclination, formatRightAscension } from '@meridiem/core';
import type { PointerEvent, ReactNode } from 'react';
import { useState } from 'react';
import type { ScreenPoint, SkyView } from '../../../sky-field/projection.ts';
import { screenAngleDeg, toScreen, toSky } from '../../../sky-field/projection.ts';
import type { Composition, Framed } from '../view-model.ts';
import { SkyDrawing } from './SkyDrawing.tsx';

interface FrameSkyProps {
  readonly view: SkyView;
  readonly around: ResponseOf<typeof catalogueAround> | undefined;
  readonly composition: Composition;
  readonly framed: Framed;
  readonly onMove: (centre: SkyPosition) => void;
  readonly onTurn: (positionAngleDeg: number) => void;
  /** Drawn under the map: pictures of the sky. */
  readonly children?: ReactNode;
}

/** The turning handle stands this far beyond the upper edge, as a share of the composition's reach. */
const HANDLE_REACH = 1.12;

/** The sky with the panels on it: dragged as one, turned by the handle or the wheel, moved by arrow keys. */
export function FrameSky({ view, around, composition, framed, onMove, onTurn, children }: FrameSkyProps) {
  const [grip, setGrip] = useState<{ kind: 'move' | 'turn'; from: ScreenPoint; start: ScreenPoint } | null>(null);
  const middle = toScreen(view, composition.centre)!;
  const pointOf = (svg: SVGSVGElement, event: PointerEvent): ScreenPoint => {
    const box = svg.getBoundingClientRect();
    return {
      x: ((event.clientX - box.left) / box.width) * view.widthPx,
      y: ((event.clientY - box.top) / box.height) * view.heightPx,
    };
  };
  const take = (kind: 'move' | 'turn') => (event: PointerEvent<SVGGElement>) => {
    const svg = event.currentTarget.ownerSVGElement!;
    svg.setPointerCapture(event.pointerId);
    setGrip({ kind, from: pointOf(svg, event), start: middle });
    event.stopPropagation();
  };
  const drag = (event: PointerEvent<SVGSVGElement>): void => {
    if (!grip) return;
    const at = pointOf(event.currentTarget, event);
    if (grip.kind === 'turn') return onTurn(Math.round(10 * screenAngleDeg(middle, at)) / 10);
    onMove(toSky(view, { x: grip.start.x + at.x - grip.from.x, y: grip.start.y + at.y - grip.from.y }));
  };
  const angle = (composition.positionAngleDeg * Math.PI) / 180;
  const reachPx = (framed.reachDeg * HANDLE_REACH * view.widthPx) / view.widthDeg;
  const handle = { x: middle.x - Math.sin(angle) * reachPx, y: middle.y - Math.cos(angle) * reachPx };
  const nudge = (right: number, up: number): void => onMove(toSky(view, { x: middle.x + right, y: middle.y - up }));
  const onKey = (key: string, isFine: boolean): boolean => {
    const step = isFine ? 1 : 12;
    const moves: Readonly<Record<string, () => void>> = {
      ArrowLeft: () => nudge(-step, 0),
      ArrowRight: () => nudge(step, 0),
      ArrowUp: () => nudge(0, step),
      ArrowDown: () => nudge(0, -step),
      '+': () => onTurn(composition.positionAngleDeg + (isFine ? 0.1 : 1)),
      '-': () => onTurn(composition.positionAngleDeg - (isFine ? 0.1 : 1)),
    };
    moves[key]?.();
    return key in moves;
  };
  return (
    <svg
      viewBox={`0 0 ${view.widthPx} ${view.heightPx}`}
      className="block w-full touch-none select-none"
      role="application"
      aria-label={`Sky around ${formatRightAscension(composition.centre.raDeg)}, ${formatDeclination(composition.centre.decDeg)}: arrow keys move the frame, plus and minus turn it`}
      tabIndex={0}
      onPointerMove={drag}
      onPointerUp={() => setGrip(null)}
      onPointerCancel={() => setGrip(null)}
      onWheel={(event) => event.shiftKey && onTurn(composition.positionAngleDeg + Math.sign(event.deltaY))}
      onKeyDown={(event) => onKey(event.key, event.shiftKey) && event.preventDefault()}
    >
      <rect width={view.widthPx} height={view.heightPx} fill="var(--sky-night)" />
      {children}
      {around && <SkyDrawing view={view} around={around} />}
      <g onPointerDown={take('move')} className="cursor-move">
        {framed.panels.map((panel, i) => {
          const corners = panel.corners.map((corner) => toScreen(view, corner)).filter((point) => point !== null);
          const centre = toScreen(view, panel.centre);
          return (
            <g key={`${panel.row} ${panel.col}`}>
              <polygon
                points={corners.map(({ x, y }) => `${x.toFixed(1)},${y.toFixed(1)}`).join(' ')}
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
      <g onPointerDown={take('turn')} className="cursor-grab">
        <line
          x1={middle.x}
          y1={middle.y}
          x2={handle.x}
          y2={handle.y}
          stroke="var(--moon)"
          strokeWidth={0.8}
          strokeDasharray="1 4"
          className="pointer-events-none"
        />
        <circle cx={handle.x} cy={handle.y} r={7} fill="var(--sky-night)" stroke="var(--moon)" strokeWidth={1.6} />
      </g>
      <text x={view.widthPx / 2} y={15} fill="var(--sky-ink)" fontSize={12} textAnchor="middle">
        N
      </text>
      <text x={8} y={view.heightPx / 2} fill="var(--sky-ink)" fontSize={12}>
        E
      </text>
    </svg>
  );
}
