// How far a camera is turned by hand, in the words of whoever stands behind it.
import type { CameraTurn } from '@meridiem/core';
import { degrees } from './format.ts';

/** "12.0° clockwise, seen from behind it: 9.6 mm along its tube" */
export function turnByWords({ turnDeg, direction, drawtubeMm }: CameraTurn): string {
  const tube =
    drawtubeMm === null
      ? '. The diameter of its tube is not noted, so there are no millimetres'
      : `: ${drawtubeMm.toFixed(1)} mm along its tube`;
  return `${degrees(turnDeg)} ${direction}, seen from behind it${tube}`;
}
