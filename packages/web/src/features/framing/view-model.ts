// A composition in the address, its panels, and what it amounts to in words.
import type { Rig } from '@meridiem/contract';
import type { MosaicPanel, SkyPosition } from '@meridiem/core';
import {
  angleApartDeg,
  cornersOf,
  fieldOf,
  fromTangentPlane,
  isInsidePanel,
  largestTurnDeg,
  mosaicOf,
  planeSides,
} from '@meridiem/core';

export interface Composition {
  readonly targetName: string;
  readonly subject: SkyPosition & { readonly sizeArcmin: number | null };
  readonly centre: SkyPosition;
  readonly positionAngleDeg: number;
  readonly rows: number;
  readonly cols: number;
  readonly overlapPercent: number;
  readonly layout: 'one_plane' | 'one_angle';
}

export const MOST_SIDE = 10;

/** The composition that an address holds; null while it names no place. */
export function compositionFrom(search: URLSearchParams): Composition | null {
  const number = (key: string): number | null => {
    const text = search.get(key);
    const value = text === null || text === '' ? Number.NaN : Number(text);
    return Number.isFinite(value) ? value : null;
  };
  const [raDeg, decDeg] = [number('ra'), number('dec')];
  if (raDeg === null || decDeg === null || raDeg < 0 || raDeg >= 360 || Math.abs(decDeg) > 90) return null;
  const within = (value: number | null, from: number, to: number, usual: number): number =>
    value === null ? usual : Math.min(to, Math.max(from, value));
  return {
    targetName: search.get('target') ?? '',
    subject: { raDeg: number('sra') ?? raDeg, decDeg: number('sdec') ?? decDeg, sizeArcmin: number('size') },
    centre: { raDeg, decDeg },
    positionAngleDeg: within(number('angle'), 0, 359.99, 0),
    rows: Math.round(within(number('rows'), 1, MOST_SIDE, 1)),
    cols: Math.round(within(number('cols'), 1, MOST_SIDE, 1)),
    overlapPercent: within(number('overlap'), 0, 60, 15),
    layout: search.get('layout') === 'one_plane' ? 'one_plane' : 'one_angle',
  };
}

/** What of a composition changes an address, written back. */
export function addressOf(changes: Partial<Composition>): Record<string, string> {
  const rounded = (value: number, digits: number): string => String(Number(value.toFixed(digits)));
  const { centre, positionAngleDeg, rows, cols, overlapPercent, layout } = changes;
  return {
    ...(centre ? { ra: rounded(centre.raDeg, 5), dec: rounded(centre.decDeg, 5) } : {}),
    ...(positionAngleDeg === undefined ? {} : { angle: rounded(((positionAngleDeg % 360) + 360) % 360, 2) }),
    ...(rows === undefined ? {} : { rows: String(rows) }),
    ...(cols === undefined ? {} : { cols: String(cols) }),
    ...(overlapPercent === undefined ? {} : { overlap: rounded(overlapPercent, 1) }),
    ...(layout === undefined ? {} : { layout }),
  };
}

export interface Framed {
  readonly panels: readonly (MosaicPanel & { readonly corners: readonly SkyPosition[] })[];
  readonly overlapPercent: number;
  /** Half the diagonal of everything framed, degrees. */
  readonly reachDeg: number;
  readonly facts: readonly string[];
  /** What stands in the way of sending it to a project. */
  readonly problem: string | null;
  /** What should be known and stands in nobody's way. */
  readonly remarks: readonly string[];
}

export function framed(composition: Composition, rig: Rig): Framed {
  const sides = planeSides(rig);
  const { widthDeg, heightDeg, imageScaleArcsecPerPx } = fieldOf(rig);
  const { rows, cols, positionAngleDeg, centre, layout } = composition;
  const wish = {
    centre,
    positionAngleDeg,
    rows,
    cols,
    overlapShare: composition.overlapPercent / 100,
    layout,
    ...sides,
  };
  const mosaic = mosaicOf(wish);
  const size = (degrees: number): string => (degrees >= 1 ? `${degrees.toFixed(2)}°` : `${(60 * degrees).toFixed(1)}′`);
  const facts = [`One panel ${size(widthDeg)} × ${size(heightDeg)} at ${imageScaleArcsecPerPx.toFixed(2)}″/px`];
  if (!mosaic)
    return {
      panels: [],
      overlapPercent: composition.overlapPercent,
      reachDeg: Math.hypot(widthDeg * cols, heightDeg * rows) / 2,
      facts,
      problem:
        layout === 'one_angle'
          ? 'Under one camera angle these panels can’t be closed: so near a pole their sides turn away from each other. Use fewer panels, or each panel at its own angle.'
          : 'These panels are too wide for one plane: frame them as two projects.',
      remarks: [],
    };
  const panels = mosaic.panels.map((panel) => ({
    ...panel,
    corners: cornersOf({ centre: panel.centre, positionAngleDeg: panel.positionAngleDeg, widthDeg, heightDeg }),
  }));
  const step = 1 - mosaic.overlapShare;
  const whole = { width: sides.widthDeg * (1 + (cols - 1) * step), height: sides.heightDeg * (1 + (rows - 1) * step) };
  if (panels.length > 1) {
    facts.push(
      `${panels.length} panels, together ${size(whole.width)} × ${size(whole.height)}, ${(whole.width * whole.height).toFixed(1)} square degrees`,
      `${panels.length} times the hours of one panel for the same depth`,
    );
  }
  const inside = subjectShare(composition, panels, sides);
  if (inside !== null) facts.push(`${Math.round(100 * inside)} % of ${composition.targetName || 'the subject'} inside`);
  return {
    panels,
    overlapPercent: 100 * mosaic.overlapShare,
    reachDeg: Math.hypot(whole.width, whole.height) / 2,
    facts,
    problem: angleProblem(composition, rig, panels),
    remarks: remarksOf(composition, rig, mosaic.overlapShare),
  };
}

/** A camera that nobody turns within the night can't take each panel at its own angle. */
function angleProblem(
  { layout, positionAngleDeg }: Composition,
  rig: Rig,
  panels: readonly MosaicPanel[],
): string | null {
  if (layout === 'one_angle' || rig.rotatorKind === 'motor') return null;
  const turnDeg = largestTurnDeg(panels, positionAngleDeg);
  if (turnDeg <= rig.angleToleranceDeg) return null;
  return `On one plane the outer panels are turned by up to ${turnDeg.toFixed(1)}°, and this camera stands at one angle with ${rig.angleToleranceDeg}° of tolerance: use one camera angle.`;
}

function remarksOf(
  { overlapPercent, positionAngleDeg, rows, cols }: Composition,
  rig: Rig,
  usedShare: number,
): string[] {
  const remarks: string[] = [];
  if (rows * cols > 1 && 100 * usedShare > overlapPercent + 0.1)
    remarks.push(
      `Neighbours overlap by ${(100 * usedShare).toFixed(1)} %, more than asked: less would leave gaps under one camera angle.`,
    );
  if (rows * cols > 1 && 100 * usedShare < 10)
    remarks.push('Under 10 % of overlap is a gamble: few stars are left to join the panels by.');
  if (rig.rotatorKind !== 'motor') {
    if (rig.skyAngleDeg === null)
      remarks.push('The angle of this camera has not been measured; nothing is planned before it is.');
    else {
      const apart = angleApartDeg(rig.skyAngleDeg, positionAngleDeg);
      if (apart > rig.angleToleranceDeg)
        remarks.push(
          `The camera stands at ${rig.skyAngleDeg}°: ${apart.toFixed(1)}° away, beyond its tolerance of ${rig.angleToleranceDeg}°. It must be turned on a visit before this is planned.`,
        );
    }
  }
  return remarks;
}

const GRID = 41;

/** Share of the subject's disc that panels cover; null where its size isn't known. */
function subjectShare(
  { subject }: Composition,
  panels: readonly MosaicPanel[],
  sides: { widthDeg: number; heightDeg: number },
): number | null {
  if (!subject.sizeArcmin) return null;
  const radiusDeg = subject.sizeArcmin / 120;
  let [all, covered] = [0, 0];
  for (let i = 0; i < GRID * GRID; i++) {
    const x = (2 * (i % GRID)) / (GRID - 1) - 1;
    const y = (2 * Math.floor(i / GRID)) / (GRID - 1) - 1;
    if (x * x + y * y > 1) continue;
    all += 1;
    const place = fromTangentPlane(subject, { xDeg: x * radiusDeg, yDeg: y * radiusDeg });
    if (panels.some((panel) => isInsidePanel(panel, place, sides))) covered += 1;
  }
  return covered / all;
}
