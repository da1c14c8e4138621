import type { SensorOnSky } from '@meridiem/core';
import { pixelToSky } from '@meridiem/core';
import type { SkyView } from './projection.ts';
import { toScreen } from './projection.ts';
import { projective } from './survey-tiles.ts';

/** Pixels that a picture is drawn with before it is laid on the sky. */
const DRAWN_PX = 512;

/** One picture laid on the sky where it was taken. */
export function PictureLayer({
  view,
  address,
  sensor,
  strength,
}: {
  view: SkyView;
  address: string;
  sensor: SensorOnSky;
  strength: number;
}) {
  const { widthPx, heightPx } = sensor;
  const corners = [
    { x: 0, y: heightPx },
    { x: widthPx, y: heightPx },
    { x: widthPx, y: 0 },
    { x: 0, y: 0 },
  ].map((corner) => toScreen(view, pixelToSky(sensor, corner)));
  if (corners.includes(null)) return null;
  const transform = `matrix3d(${projective(
    corners.map((corner) => corner!),
    DRAWN_PX,
  )
    .map((value) => value.toPrecision(10))
    .join(',')})`;
  return (
    <img
      src={address}
      alt=""
      className="pointer-events-none absolute left-0 top-0 max-w-none"
      style={{ width: DRAWN_PX, height: DRAWN_PX, transform, transformOrigin: '0 0', opacity: strength }}
    />
  );
}
