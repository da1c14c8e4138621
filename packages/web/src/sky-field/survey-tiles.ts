// Survey pictures laid onto the drawing: between two tangent planes straight lines stay straight, so four corners say it all.
import type { SurveyTile } from '@meridiem/core';
import { frameOfTile, fromTangentPlane, levelFor, surveyTiles } from '@meridiem/core';
import type { ScreenPoint, SkyView } from './projection.ts';
import { pixelsOf, toScreen } from './projection.ts';

export interface LaidTile {
  readonly key: string;
  readonly address: string;
  /** CSS transform of a square picture whose upper left corner is the drawing's. */
  readonly transform: string;
}

/** Pictures finer than this share of the drawing's pixels are not asked for. */
const ENOUGH = 0.6;
const MOST_TILES = 60;

/** @param source the key of the source, so that a browser keeps pictures of each apart */
export function laidTiles(view: SkyView, tilePx: number, source: string): LaidTile[] {
  const level = levelFor(ENOUGH * pixelsOf(view, 1), tilePx);
  const radiusDeg = (Math.hypot(view.widthPx, view.heightPx) / view.widthPx / 2) * view.widthDeg;
  return surveyTiles(view.centre, radiusDeg, level)
    .slice(0, MOST_TILES)
    .flatMap((tile) => {
      const corners = cornersOnScreen(view, tile);
      if (!corners || !isSeen(view, corners)) return [];
      const { strip, piece } = tile;
      return [
        {
          key: `${level} ${strip} ${piece}`,
          address: `/api/survey/tiles/${level}/${strip}/${piece}?from=${source}`,
          transform: `matrix3d(${projective(corners, tilePx)
            .map((value) => value.toPrecision(10))
            .join(',')})`,
        },
      ];
    });
}

/** Upper left, upper right, lower right, lower left of a tile's picture; null where it reaches behind the plane. */
export function cornersOnScreen(view: SkyView, tile: SurveyTile): ScreenPoint[] | null {
  const { centre, widthDeg } = frameOfTile(tile);
  const half = widthDeg / 2;
  const corners = [
    [half, half],
    [-half, half],
    [-half, -half],
    [half, -half],
  ].map(([xDeg, yDeg]) => toScreen(view, fromTangentPlane(centre, { xDeg, yDeg })));
  return corners.includes(null) ? null : (corners as ScreenPoint[]);
}

const isSeen = ({ widthPx, heightPx }: SkyView, corners: readonly ScreenPoint[]): boolean =>
  corners.some(({ x }) => x > 0) &&
  corners.some(({ x }) => x < widthPx) &&
  corners.some(({ y }) => y > 0) &&
  corners.some(({ y }) => y < heightPx);

/** The mapping of a square of `px` pixels onto four points, column by column as CSS wants it.
 * Source: Heckbert 1989, Fundamentals of Texture Mapping and Image Warping, section 2.2.3. */
export function projective([p0, p1, p2, p3]: readonly ScreenPoint[], px: number): number[] {
  const [dx1, dx2, sx] = [p1.x - p2.x, p3.x - p2.x, p0.x - p1.x + p2.x - p3.x];
  const [dy1, dy2, sy] = [p1.y - p2.y, p3.y - p2.y, p0.y - p1.y + p2.y - p3.y];
  const determinant = dx1 * dy2 - dx2 * dy1;
  const g = (sx * dy2 - dx2 * sy) / determinant;
  const h = (dx1 * sy - sx * dy1) / determinant;
  const [a, b] = [p1.x - p0.x + g * p1.x, p3.x - p0.x + h * p3.x];
  const [d, e] = [p1.y - p0.y + g * p1.y, p3.y - p0.y + h * p3.y];
  return [a / px, d / px, 0, g / px, b / px, e / px, 0, h / px, 0, 0, 1, 0, p0.x, p0.y, 0, 1];
}
