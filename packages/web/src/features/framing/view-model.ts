// A composition in the address, its panels, and what it amounts to in words.
import type { Rig } from '@meridiem/contract';
import type { FitWish, MosaicPanel, SkyPosition, Subject } from '@meridiem/core';
import {
  angleApartDeg,
  cornersOf,
  fromTangentPlane,
  fieldOf,
  implausibleOptics,
  largestTurnDeg,
  mosaicOf,
  planeSides,
  samplesOf,
  shareInside,
  toRad,
  toTangentPlane,
} from '@meridiem/core';
import type { AddressChanges } from '../../app/address.ts';

/** What should be inside the frame: a place with a size, or an outline drawn around it. */
export interface FramedSubject extends SkyPosition {
  readonly name: string;
  readonly sizeArcmin: number | null;
  readonly outline: readonly SkyPosition[] | null;
}

export interface Composition {
  readonly targetName: string;
  readonly subject: FramedSubject;
  /** Further subjects that should be in the same frame. */
  readonly others: readonly FramedSubject[];
  readonly centre: SkyPosition;
  readonly positionAngleDeg: number;
  readonly rows: number;
  readonly cols: number;
  readonly overlapPercent: number;
  readonly layout: 'one_plane' | 'one_angle';
}

export const MOST_SIDE = 10;

/** The composition that an address holds; null while it names no place. */
export function compositionFrom(search: URLSearchParams, restingAngleDeg = 0): Composition | null {
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
    subject: {
      name: search.get('target') ?? '',
      raDeg: number('sra') ?? raDeg,
      decDeg: number('sdec') ?? decDeg,
      sizeArcmin: number('size'),
      outline: outlineFrom(search.get('outline')),
    },
    others: othersFrom(search.get('also')),
    centre: { raDeg, decDeg },
    positionAngleDeg: within(number('angle'), 0, 359.99, restingAngleDeg),
    rows: Math.round(within(number('rows'), 1, MOST_SIDE, 1)),
    cols: Math.round(within(number('cols'), 1, MOST_SIDE, 1)),
    overlapPercent: within(number('overlap'), 0, 60, 15),
    layout: search.get('layout') === 'one_plane' ? 'one_plane' : 'one_angle',
  };
}

const FEWEST_CORNERS = 3;
const rounded = (value: number, digits: number): string => String(Number(value.toFixed(digits)));
const isPlace = (raDeg: unknown, decDeg: unknown): boolean =>
  typeof raDeg === 'number' && typeof decDeg === 'number' && raDeg >= 0 && raDeg < 360 && Math.abs(decDeg) <= 90;

/** "10.1,-25.2;10.3,-25.2;…"; null where it is no outline. */
function outlineFrom(text: string | null): SkyPosition[] | null {
  const corners = (text ?? '').split(';').map((corner) => {
    const [raDeg, decDeg] = corner.split(',').map((part) => (part === '' ? Number.NaN : Number(part)));
    return { raDeg, decDeg };
  });
  const isOutline = corners.length >= FEWEST_CORNERS && corners.every(({ raDeg, decDeg }) => isPlace(raDeg, decDeg));
  return isOutline ? corners : null;
}

/** A list of name, right ascension, declination and size; what can't be read is left out. */
function othersFrom(text: string | null): FramedSubject[] {
  const listed = ((): unknown => {
    try {
      return JSON.parse(text ?? '[]');
    } catch {
      return [];
    }
  })();
  return (Array.isArray(listed) ? listed : []).flatMap((entry: unknown) => {
    const [name, raDeg, decDeg, sizeArcmin] = Array.isArray(entry) ? (entry as unknown[]) : [];
    if (typeof name !== 'string' || !isPlace(raDeg, decDeg)) return [];
    const known = typeof sizeArcmin === 'number' && sizeArcmin > 0 ? sizeArcmin : null;
    return [{ name, raDeg: raDeg as number, decDeg: decDeg as number, sizeArcmin: known, outline: null }];
  });
}

/** What of a composition changes an address, written back. */
export function addressOf(changes: Partial<Composition>): AddressChanges {
  const { centre, positionAngleDeg, rows, cols, overlapPercent, layout, others } = changes;
  return {
    ...(centre ? { ra: rounded(centre.raDeg, 5), dec: rounded(centre.decDeg, 5) } : {}),
    ...(positionAngleDeg === undefined ? {} : { angle: rounded(((positionAngleDeg % 360) + 360) % 360, 2) }),
    ...(rows === undefined ? {} : { rows: String(rows) }),
    ...(cols === undefined ? {} : { cols: String(cols) }),
    ...(overlapPercent === undefined ? {} : { overlap: rounded(overlapPercent, 1) }),
    ...(layout === undefined ? {} : { layout }),
    ...(others === undefined ? {} : { also: others.length === 0 ? null : othersText(others) }),
  };
}

const othersText = (others: readonly FramedSubject[]): string =>
  JSON.stringify(others.map(({ name, raDeg, decDeg, sizeArcmin }) => [name, raDeg, decDeg, sizeArcmin]));

/** A subject in the address; the frame stays where it is. */
export const subjectAddress = ({ name, raDeg, decDeg, sizeArcmin, outline }: FramedSubject): AddressChanges => ({
  target: name,
  sra: rounded(raDeg, 5),
  sdec: rounded(decDeg, 5),
  size: String(sizeArcmin ?? ''),
  outline: outline?.map((corner) => `${rounded(corner.raDeg, 5)},${rounded(corner.decDeg, 5)}`).join(';') ?? null,
});

/** Of a subject whose size nobody knows. */
const USUAL_SIZE_ARCMIN = 10;

/** The subjects of a composition as the core wants them. */
export const subjectsOf = ({ subject, others }: Pick<Composition, 'subject' | 'others'>): Subject[] =>
  [subject, ...others].map((one) =>
    one.outline ? { outline: one.outline } : { centre: one, radiusDeg: (one.sizeArcmin ?? USUAL_SIZE_ARCMIN) / 120 },
  );

/** The panels of a composition: what is drawn while it moves. */
export interface Framed {
  readonly panels: readonly (MosaicPanel & { readonly corners: readonly SkyPosition[] })[];
  readonly overlapPercent: number;
  /** Sides of everything framed, on the plane. */
  readonly wholeDeg: { readonly width: number; readonly height: number };
  /** Half the diagonal of everything framed. */
  readonly reachDeg: number;
}

export function framed(composition: Composition, rig: Rig): Framed {
  const sides = planeSides(rig);
  const { widthDeg, heightDeg } = fieldOf(rig);
  const { rows, cols, positionAngleDeg, centre, layout, overlapPercent } = composition;
  const mosaic = mosaicOf({
    centre,
    positionAngleDeg,
    rows,
    cols,
    overlapShare: overlapPercent / 100,
    layout,
    ...sides,
  });
  const step = 1 - (mosaic?.overlapShare ?? overlapPercent / 100);
  const wholeDeg = {
    width: sides.widthDeg * (1 + (cols - 1) * step),
    height: sides.heightDeg * (1 + (rows - 1) * step),
  };
  return {
    panels: (mosaic?.panels ?? []).map((panel) => ({
      ...panel,
      corners: cornersOf({ centre: panel.centre, positionAngleDeg: panel.positionAngleDeg, widthDeg, heightDeg }),
    })),
    overlapPercent: 100 * (1 - step),
    wholeDeg,
    reachDeg: Math.hypot(wholeDeg.width, wholeDeg.height) / 2,
  };
}

export interface Amounts {
  readonly facts: readonly string[];
  /** What stands in the way of sending it to a project. */
  readonly problem: string | null;
  /** What should be known and stands in nobody's way. */
  readonly remarks: readonly string[];
}

const size = (degrees: number): string => (degrees >= 1 ? `${degrees.toFixed(2)}°` : `${(60 * degrees).toFixed(1)}′`);

/** What a framed composition amounts to, in words. */
export function amountsOf(composition: Composition, { panels, wholeDeg, overlapPercent }: Framed, rig: Rig): Amounts {
  const { widthDeg, heightDeg, imageScaleArcsecPerPx } = fieldOf(rig);
  const facts = [`One panel ${size(widthDeg)} × ${size(heightDeg)} at ${imageScaleArcsecPerPx.toFixed(2)}″/px`];
  const doubts = implausibleOptics(rig);
  if (panels.length === 0)
    return {
      facts,
      problem:
        composition.layout === 'one_angle'
          ? 'Under one camera angle these panels can’t be closed: so near a pole their sides turn away from each other. Use fewer panels, or each panel at its own angle.'
          : 'These panels are too wide for one plane: frame them as two projects.',
      remarks: doubts,
    };
  if (panels.length > 1)
    facts.push(
      `${panels.length} panels, together ${size(wholeDeg.width)} × ${size(wholeDeg.height)}, ${(wholeDeg.width * wholeDeg.height).toFixed(1)} square degrees`,
      `${panels.length} times the hours of one panel for the same depth`,
    );
  const sides = planeSides(rig);
  for (const [i, subject] of [composition.subject, ...composition.others].entries()) {
    if (!subject.sizeArcmin && !subject.outline) continue;
    const inside = shareInside(placesOf(subject), panels, sides);
    facts.push(`${Math.round(100 * inside)} % of ${subject.name || (i === 0 ? 'the subject' : 'the other')} inside`);
  }
  return {
    facts,
    problem: angleProblem(composition, rig, panels),
    remarks: [...doubts, ...remarksOf(composition, rig, overlapPercent / 100)],
  };
}

const remembered = new WeakMap<FramedSubject, SkyPosition[]>();

/** Places spread over a subject: the same ones wherever the frame moves. */
function placesOf(subject: FramedSubject): SkyPosition[] {
  const known = remembered.get(subject) ?? samplesOf(subjectsOf({ subject, others: [] }));
  remembered.set(subject, known);
  return known;
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
  return `On one plane the outer panels are turned by up to ${turnDeg.toFixed(1)}°, and this camera has one angle with ${rig.angleToleranceDeg}° of tolerance: use one camera angle.`;
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
          `The camera is at ${rig.skyAngleDeg}°: ${apart.toFixed(1)}° away, beyond its tolerance of ${rig.angleToleranceDeg}°. It must be turned on a visit before this is planned.`,
        );
    }
  }
  return remarks;
}

/** Room around subjects that are fitted, as a share of a panel's shorter side. */
const MARGIN = 0.08;

/** A camera that nobody turns keeps its angle; one that is turned by hand may be. */
export const fitWish = (composition: Composition, rig: Rig): FitWish => ({
  subjects: subjectsOf(composition),
  ...planeSides(rig),
  overlapShare: composition.overlapPercent / 100,
  marginShare: MARGIN,
  layout: composition.layout,
  mostSide: MOST_SIDE,
  ...(rig.rotatorKind === 'none' && rig.skyAngleDeg !== null ? { fixedAngleDeg: rig.skyAngleDeg } : {}),
});

/** A panel as a project takes it. */
export interface SentPanel extends SkyPosition {
  readonly positionAngleDeg: number;
}

export const sentPanels = (panels: readonly Pick<MosaicPanel, 'centre' | 'positionAngleDeg'>[]): SentPanel[] =>
  panels.map(({ centre, positionAngleDeg }) => ({
    raDeg: centre.raDeg,
    decDeg: centre.decDeg,
    positionAngleDeg: positionAngleDeg % 360,
  }));

/** Rows and columns of another rig that cover what was covered. */
export function sameArea(
  composition: Composition,
  wholeDeg: Framed['wholeDeg'],
  rig: Rig,
): Pick<Composition, 'rows' | 'cols'> {
  const { widthDeg, heightDeg } = planeSides(rig);
  const step = 1 - composition.overlapPercent / 100;
  const count = (whole: number, side: number): number =>
    Math.min(MOST_SIDE, Math.max(1, Math.ceil((whole / side - 1) / step + 1 - 0.02)));
  return { rows: count(wholeDeg.height, heightDeg), cols: count(wholeDeg.width, widthDeg) };
}

/** The composition moved and turned as one, so that one of its panels stands where a shot does. */
export function movedLike(
  { centre, positionAngleDeg }: Composition,
  panel: Pick<MosaicPanel, 'centre'>,
  shot: { readonly centre: SkyPosition },
  turnedDeg: number,
): Partial<Composition> {
  const from = toTangentPlane(panel.centre, centre);
  const turn = toRad(-turnedDeg);
  const [x, y] = [from?.xDeg ?? 0, from?.yDeg ?? 0];
  const turned = {
    xDeg: x * Math.cos(turn) - y * Math.sin(turn),
    yDeg: x * Math.sin(turn) + y * Math.cos(turn),
  };
  return { centre: fromTangentPlane(shot.centre, turned), positionAngleDeg: positionAngleDeg + turnedDeg };
}

/** What of an address belongs to the composition and is kept with its target. */
const KEPT = [
  'target',
  'ra',
  'dec',
  'sra',
  'sdec',
  'size',
  'outline',
  'also',
  'angle',
  'rows',
  'cols',
  'overlap',
  'layout',
  'part',
];

/** The composition as text that the framing page opens again. */
export function compositionText(search: URLSearchParams, rigId: string): string {
  const kept = new URLSearchParams({ rig: rigId });
  for (const key of KEPT) {
    const value = search.get(key);
    if (value) kept.set(key, value);
  }
  return kept.toString();
}
