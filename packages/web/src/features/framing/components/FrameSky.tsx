import type { SkyPosition } from '@meridiem/core';
import { formatDeclination, formatRightAscension } from '@meridiem/core';
import type { KeyboardEvent, MouseEvent, PointerEvent, ReactNode } from 'react';
import { useEffect, useState } from 'react';
import type { ScreenPoint, SkyView } from '../../../sky-field/projection.ts';
import { pulled, screenAngleDeg, toScreen, toSky } from '../../../sky-field/projection.ts';
import type { Composition, Framed } from '../view-model.ts';
import { Panels } from './Panels.tsx';

interface FrameSkyProps {
  readonly view: SkyView;
  readonly composition: Composition;
  readonly framed: Framed;
  readonly onMove: (centre: SkyPosition) => void;
  readonly onTurn: (positionAngleDeg: number) => void;
  readonly onLook: (centre: SkyPosition) => void;
  readonly onZoom: (factor: number) => void;
  /** While an outline is drawn a click adds a corner and nothing moves. */
  readonly onCorner: ((corner: SkyPosition) => void) | null;
  /** Drawn under the panels: pictures and the map. */
  readonly children: ReactNode;
  /** Drawn over the sky and under the panels. */
  readonly marks: ReactNode;
}

const ZOOM_STEP = 1.25;
const [STEP_PX, FINE_STEP_PX] = [12, 1];
const PULL_PX = 60;

interface Grip {
  readonly kind: 'move' | 'turn' | 'pull';
  readonly from: ScreenPoint;
  readonly start: ScreenPoint;
  readonly view: SkyView;
}

const pointIn = (
  element: Element,
  { clientX, clientY }: { readonly clientX: number; readonly clientY: number },
): ScreenPoint => {
  const box = element.getBoundingClientRect();
  return { x: clientX - box.left, y: clientY - box.top };
};

/** The sky with the panels on it: dragged as one, turned by the handle or the wheel, moved by keys; beside the panels the sky itself is pulled along. */
export function FrameSky(props: FrameSkyProps) {
  const { view, composition, framed, onMove, onTurn, onLook, onZoom, onCorner, children, marks } = props;
  const [svg, setSvg] = useState<SVGSVGElement | null>(null);
  const [grip, setGrip] = useState<Grip | null>(null);
  const middle = toScreen(view, composition.centre);
  const take = (kind: Grip['kind']) => (event: PointerEvent<SVGElement>) => {
    event.stopPropagation();
    if (!svg || onCorner || event.button !== 0 || (kind !== 'pull' && !middle)) return;
    svg.focus({ preventScroll: true });
    svg.setPointerCapture(event.pointerId);
    const from = pointIn(svg, event);
    setGrip({ kind, from, start: middle ?? from, view });
  };
  const drag = (event: PointerEvent<SVGSVGElement>): void => {
    if (!grip) return;
    const { kind, from, start, view: before } = grip;
    const at = pointIn(event.currentTarget, event);
    const moved = { x: at.x - from.x, y: at.y - from.y };
    if (kind === 'turn') onTurn(Math.round(10 * screenAngleDeg(start, at)) / 10);
    else if (kind === 'pull') onLook(pulled(before, moved).centre);
    else onMove(toSky(before, { x: start.x + moved.x, y: start.y + moved.y }));
  };
  const letGo = (): void => setGrip(null);
  const turnBy = (degrees: number): void => onTurn(composition.positionAngleDeg + degrees);
  // React listens to the wheel passively, which could not keep the page from scrolling.
  useEffect(() => {
    const wheel = (event: WheelEvent): void => {
      // The wheel scrolls the page until the sky has been touched.
      if (document.activeElement !== svg) return;
      event.preventDefault();
      const isOnFrame = (event.target as Element).closest('[data-panels]') !== null;
      if (isOnFrame) turnBy(Math.sign(event.deltaY) * (event.shiftKey ? 0.1 : 1));
      else onZoom(event.deltaY > 0 ? ZOOM_STEP : 1 / ZOOM_STEP);
    };
    svg?.addEventListener('wheel', wheel, { passive: false });
    return () => svg?.removeEventListener('wheel', wheel);
  });

  const onKey = (event: KeyboardEvent): void => {
    const by = (right: number, up: number): void => {
      if (event.altKey) return onLook(pulled(view, { x: -right * PULL_PX, y: up * PULL_PX }).centre);
      const step = event.shiftKey ? FINE_STEP_PX : STEP_PX;
      if (middle) onMove(toSky(view, { x: middle.x + right * step, y: middle.y - up * step }));
    };
    const keys: Readonly<Record<string, () => void>> = {
      ArrowLeft: () => by(-1, 0),
      ArrowRight: () => by(1, 0),
      ArrowUp: () => by(0, 1),
      ArrowDown: () => by(0, -1),
      '+': () => turnBy(event.shiftKey ? 0.1 : 1),
      '-': () => turnBy(-1),
      _: () => turnBy(-0.1),
      c: () => onLook(composition.centre),
      PageUp: () => onZoom(1 / ZOOM_STEP),
      PageDown: () => onZoom(ZOOM_STEP),
    };
    if (!keys[event.key] || event.ctrlKey || event.metaKey) return;
    keys[event.key]();
    event.preventDefault();
    event.stopPropagation();
  };
  const bringHere = (event: MouseEvent): void => {
    if (onCorner) return;
    const place = toSky(view, pointIn(svg!, event));
    onMove(place);
    onLook(place);
  };
  return (
    <div className="relative overflow-hidden bg-[var(--sky-night)]" style={{ height: view.heightPx }}>
      {children}
      <svg
        ref={setSvg}
        width={view.widthPx}
        height={view.heightPx}
        className={`absolute inset-0 touch-none select-none will-change-transform focus-visible:outline-2 focus-visible:-outline-offset-2 focus-visible:outline-brass ${onCorner ? 'cursor-crosshair' : 'cursor-grab'}`}
        role="application"
        aria-label={`Sky around ${formatRightAscension(composition.centre.raDeg)}, ${formatDeclination(composition.centre.decDeg)}: arrow keys move the frame, plus and minus turn it, with Alt the sky is moved, Page Up and Page Down look closer and wider, c looks at the frame`}
        tabIndex={0}
        onPointerDown={take('pull')}
        onPointerMove={drag}
        onPointerUp={letGo}
        onPointerCancel={letGo}
        onClick={(event) => onCorner?.(toSky(view, pointIn(event.currentTarget, event)))}
        onDoubleClick={bringHere}
        onKeyDown={onKey}
      >
        {marks}
        <Panels view={view} composition={composition} framed={framed} onTake={take} />
        <Compass />
      </svg>
    </div>
  );
}

/** North is up and east to the left, as on the sky one looks up to. */
const Compass = () => (
  <g fill="var(--sky-ink)" stroke="none" fontSize={11} className="pointer-events-none">
    <path d="M34,42V20M34,42H14" stroke="var(--sky-ink)" strokeWidth={0.9} fill="none" />
    <text x={34} y={15} textAnchor="middle">
      N
    </text>
    <text x={5} y={46}>
      E
    </text>
  </g>
);
