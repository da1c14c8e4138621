// A mosaic as it lies on the sky, each panel with how deep it is by now: what the picture beside its table draws.
import type { Panel, Rig } from '@meridiem/contract';
import { panelWithin } from '@meridiem/contract';
import { cornersOf, fieldOf, toTangentPlane } from '@meridiem/core';

export interface PanelShape {
  readonly id: string;
  readonly number: string;
  /** Corners in the picture, x to the right and y downwards, north up and east left. */
  readonly corners: readonly { readonly x: number; readonly y: number }[];
  /** Accepted hours of those wanted, [0, 1]; null where no end is wanted. */
  readonly depth: number | null;
  /** "panel 3: 4.2 of 9.0 h" */
  readonly words: string;
}

export interface MosaicPicture {
  readonly widthPx: number;
  readonly heightPx: number;
  readonly shapes: readonly PanelShape[];
}

const MARGIN_PX = 3;

/** @returns null where there is one panel, or a place is open */
export function mosaicPicture(
  projectName: string,
  panels: readonly Panel[],
  rig: Rig,
  widestPx: number,
  tallestPx: number,
): MosaicPicture | null {
  const places = panels.flatMap((panel) =>
    panel.raDeg === null || panel.decDeg === null
      ? []
      : [{ panel, centre: { raDeg: panel.raDeg, decDeg: panel.decDeg } }],
  );
  if (places.length < 2 || places.length < panels.length) return null;
  const [{ centre: middle }] = places;
  const field = fieldOf(rig);
  const outlines = places.map(({ panel, centre }) =>
    cornersOf({ ...field, centre, positionAngleDeg: panel.positionAngleDeg }).map((corner) =>
      toTangentPlane(middle, corner),
    ),
  );
  const points = outlines.flat();
  if (points.includes(null)) return null;
  const xs = points.map((point) => -point!.xDeg);
  const ys = points.map((point) => -point!.yDeg);
  const [left, top] = [Math.min(...xs), Math.min(...ys)];
  const [wideDeg, highDeg] = [Math.max(...xs) - left, Math.max(...ys) - top];
  const scale = Math.min((widestPx - 2 * MARGIN_PX) / wideDeg, (tallestPx - 2 * MARGIN_PX) / highDeg);
  return {
    widthPx: Math.ceil(wideDeg * scale) + 2 * MARGIN_PX,
    heightPx: Math.ceil(highDeg * scale) + 2 * MARGIN_PX,
    shapes: places.map(({ panel }, i) => ({
      id: panel.id,
      number: /\d+$/.exec(panelWithin(projectName, panel.name))?.[0] ?? '',
      corners: outlines[i].map((point) => ({
        x: MARGIN_PX + (-point!.xDeg - left) * scale,
        y: MARGIN_PX + (-point!.yDeg - top) * scale,
      })),
      ...depthOf(projectName, panel),
    })),
  };
}

function depthOf(projectName: string, panel: Panel): Pick<PanelShape, 'depth' | 'words'> {
  const goals = panel.goals.filter(({ enabled }) => enabled);
  const accepted = goals.reduce((sum, { tally }) => sum + tally.acceptedHours, 0);
  const name = panelWithin(projectName, panel.name);
  if (goals.some(({ wanted }) => wanted === null)) return { depth: null, words: `${name}: ${accepted.toFixed(1)} h` };
  // Each goal counts up to what is wanted of it: one that has more does not hide one that has none.
  const wanted = goals.reduce((sum, { tally }) => sum + (tally.wantedHours ?? 0), 0);
  const filled = goals.reduce((sum, { tally }) => sum + Math.min(tally.acceptedHours, tally.wantedHours ?? 0), 0);
  return {
    depth: wanted === 0 ? 0 : filled / wanted,
    words: `${name}: ${accepted.toFixed(1)} of ${wanted.toFixed(1)} h`,
  };
}
