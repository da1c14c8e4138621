import type { ResponseOf, catalogueAround } from '@meridiem/contract';
import { memo } from 'react';
import type { SkyView } from '../../../sky-field/projection.ts';
import { pixelsOf, toScreen } from '../../../sky-field/projection.ts';

type Around = ResponseOf<typeof catalogueAround>;

/** Objects smaller than this on the drawing carry no outline. */
const SMALLEST_PX = 5;
const MOST_NAMES = 14;

/** Stars by brightness, objects as outlines: their position angles are not known, so every outline is a dashed circle. */
export const SkyDrawing = memo(function SkyDrawing({ view, around }: { view: SkyView; around: Around }) {
  const isShown = (point: { x: number; y: number } | null): point is { x: number; y: number } =>
    point !== null && point.x > -40 && point.x < view.widthPx + 40 && point.y > -40 && point.y < view.heightPx + 40;
  const outlined = around.objects
    .map((object) => ({
      object,
      point: toScreen(view, object),
      radius: pixelsOf(view, (object.sizeArcmin ?? 0) / 120),
    }))
    .filter(({ point, radius }) => isShown(point) && radius > SMALLEST_PX && radius < view.widthPx);
  return (
    <g aria-hidden>
      {around.stars.map(([raDeg, decDeg, mag]) => {
        const point = toScreen(view, { raDeg, decDeg });
        return isShown(point) ? (
          <circle
            key={`${raDeg} ${decDeg}`}
            cx={point.x}
            cy={point.y}
            r={Math.max(0.6, 4.4 - 0.37 * mag)}
            fill="var(--sky-ink)"
          />
        ) : null;
      })}
      {outlined.map(({ object, point, radius }, i) => (
        <g key={`${object.designation} ${object.raDeg}`}>
          <circle
            cx={point!.x}
            cy={point!.y}
            r={radius}
            fill="none"
            stroke="var(--moon)"
            strokeDasharray="3 3"
            strokeWidth={0.8}
          />
          {i < MOST_NAMES && (
            <text x={point!.x + radius * 0.72 + 3} y={point!.y - radius * 0.72 - 2} fill="var(--moon)" fontSize={11}>
              {object.designation}
            </text>
          )}
        </g>
      ))}
    </g>
  );
});
