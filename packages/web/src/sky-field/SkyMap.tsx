import { memo, useEffect, useRef } from 'react';
import { useShownTheme } from '../app/theme.ts';
import type { SkyView } from './projection.ts';
import type { SkyContent } from './sky-map.ts';
import { drawMap } from './sky-map.ts';

interface SkyMapProps {
  readonly view: SkyView;
  readonly content: SkyContent;
  readonly names: boolean;
  readonly grid: boolean;
}

/** The drawn map: a layer of its own, so that what moves above it does not draw it anew. */
export const SkyMap = memo(function SkyMap({ view, content, names, grid }: SkyMapProps) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const theme = useShownTheme();
  const scale = Math.max(1, window.devicePixelRatio);
  useEffect(() => {
    const to = canvas.current?.getContext('2d');
    if (!to) return;
    const style = getComputedStyle(canvas.current!);
    to.setTransform(scale, 0, 0, scale, 0, 0);
    to.clearRect(0, 0, view.widthPx, view.heightPx);
    drawMap(
      to,
      view,
      content,
      { names, grid },
      {
        ink: style.getPropertyValue('--sky-ink'),
        outline: style.getPropertyValue('--moon'),
        line: style.getPropertyValue('--sky-line'),
      },
    );
  }, [view, content, names, grid, theme, scale]);
  return (
    <canvas
      ref={canvas}
      aria-hidden
      width={view.widthPx * scale}
      height={view.heightPx * scale}
      className="absolute inset-0 size-full will-change-transform"
    />
  );
});
