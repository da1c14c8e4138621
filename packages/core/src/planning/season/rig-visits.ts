// What hands on site change at a rig from a night on: the angle of its camera, and the filters in its wheel.
import { angleApartDeg } from '../../framing/angle.ts';
import type { NightRig } from '../night/night-request.ts';

/** A visit on the day before a night: that night is the first with what it leaves behind. */
export interface SeasonVisit {
  readonly nightDate: string;
  /** Where the camera stands afterwards; as before where null. */
  readonly skyAngleDeg: number | null;
  /** Filters put in and taken out. */
  readonly fits: readonly string[];
  readonly removes: readonly string[];
}

export interface VisitedRig {
  readonly rig: Pick<NightRig, 'rotatorKind' | 'skyAngleDeg' | 'angleToleranceDeg'>;
  /** Filters that are not in the wheel now. */
  readonly notFitted: readonly string[];
  readonly visits: readonly SeasonVisit[];
}

/** Says of a panel's angle and a filter whether the rig serves them in a night, after all visits until then. */
export function servedOn(
  { rig, notFitted, visits }: VisitedRig,
  nightDate: string,
): (positionAngleDeg: number, filterId: string) => boolean {
  const missing = new Set(notFitted);
  let skyAngleDeg = rig.skyAngleDeg;
  for (const visit of inOrder(visits)) {
    if (visit.nightDate > nightDate) break;
    skyAngleDeg = visit.skyAngleDeg ?? skyAngleDeg;
    for (const id of visit.removes) missing.add(id);
    for (const id of visit.fits) missing.delete(id);
  }
  return (positionAngleDeg, filterId) =>
    !missing.has(filterId) &&
    (rig.rotatorKind === 'motor' ||
      (skyAngleDeg !== null && angleApartDeg(positionAngleDeg, skyAngleDeg) <= rig.angleToleranceDeg));
}

/** By night; of one day, as they were planned. */
export const inOrder = (visits: readonly SeasonVisit[]): SeasonVisit[] =>
  visits.toSorted((a, b) => (a.nightDate < b.nightDate ? -1 : Number(a.nightDate > b.nightDate)));

/** The night from which a panel is served in a filter by a visit only; null where no visit is needed, or none helps. */
export function waitsForVisit(rig: VisitedRig, positionAngleDeg: number, filterId: string): string | null {
  if (servedOn({ ...rig, visits: [] }, '')(positionAngleDeg, filterId)) return null;
  const nights = inOrder(rig.visits).map(({ nightDate }) => nightDate);
  return nights.find((nightDate) => servedOn(rig, nightDate)(positionAngleDeg, filterId)) ?? null;
}
