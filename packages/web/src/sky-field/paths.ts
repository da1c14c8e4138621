// Shapes on the sky as paths of a drawing: between corners a great circle is a straight line on the plane.
import type { SkyPosition } from '@meridiem/core';
import type { SkyView } from './projection.ts';
import { toScreen } from './projection.ts';

/** A closed path through corners; nothing where one of them lies behind the plane. */
export function pathOf(view: SkyView, corners: readonly SkyPosition[]): string {
  const points = corners.map((corner) => toScreen(view, corner));
  if (points.length === 0 || points.includes(null)) return '';
  return `M${points.map((point) => `${point!.x.toFixed(1)},${point!.y.toFixed(1)}`).join('L')}Z`;
}
