// Visits as a helper reads them: what to do, what it unlocks, what it leaves to be done.
import type {
  Filter,
  MovedHours,
  NewVisitJob,
  Observatory,
  Rig,
  Visit,
  VisitAdvice,
  VisitJob,
  VisitWork,
} from '@meridiem/contract';
import { angleApartDeg, cameraTurn } from '@meridiem/core';
import { turnByWords } from '../../words/camera-turn.ts';
import { degrees, hours } from '../../words/format.ts';

export type Equipment = Pick<Observatory, 'rigs' | 'filters'>;
export type Work = Pick<VisitJob, 'rigId' | 'work' | 'skyAngleDeg' | 'fitsId' | 'removesId'>;

export const WORK_WORDS: Readonly<Record<VisitWork, string>> = {
  angle: 'Turn the camera',
  filter: 'Exchange a filter',
  cleaning: 'Clean',
  mask: 'Mask',
  focus: 'Focus by hand',
  other: 'Other work',
};

const rigOf = ({ rigs }: Equipment, rigId: string): Rig | undefined => rigs.find(({ id }) => id === rigId);
const letterOf = ({ filters }: Equipment, id: string | null): string =>
  filters.find((filter) => filter.id === id)?.letter ?? 'a filter';

/** "Turn the camera from 15.0° to 118.0°: 77.0° clockwise, seen from behind it: 31.2 mm along its tube" */
export function workWords(work: Work, equipment: Equipment): string {
  const rig = rigOf(equipment, work.rigId);
  if (work.work === 'filter') return exchangeWords(work, equipment, rig);
  if (work.work !== 'angle' || !rig) return WORK_WORDS[work.work];
  const to = degrees(work.skyAngleDeg!);
  if (rig.skyAngleDeg === null)
    return `Turn the camera to ${to}. Its angle now was never measured, so how far is not known`;
  const turn = cameraTurn(rig.skyAngleDeg, work.skyAngleDeg!, rig);
  if (!turn || turn.turnDeg < 0.05) return `The camera is at ${to} already`;
  return `Turn the camera from ${degrees(rig.skyAngleDeg)} to ${to}, by ${turnByWords(turn)}`;
}

function exchangeWords({ fitsId, removesId }: Work, equipment: Equipment, rig: Rig | undefined): string {
  const place = rig?.slots.find(({ filterId }) => filterId === removesId);
  if (removesId === null) return `Put ${letterOf(equipment, fitsId)} into a free place of the wheel`;
  const at = place ? `, place ${place.slot}` : '';
  return `Put ${letterOf(equipment, fitsId)} in the place of ${letterOf(equipment, removesId)}${at}`;
}

/** Flats that are owed once the work is done; null where the old ones hold. */
export function flatsWords(work: Work, equipment: Equipment): string | null {
  if (work.work === 'filter') return `New flats afterwards: ${letterOf(equipment, work.fitsId)}`;
  const rig = rigOf(equipment, work.rigId);
  if (!rig || (work.work !== 'angle' && work.work !== 'cleaning')) return null;
  const letters = rig.slots.map(({ filterId }) => letterOf(equipment, filterId));
  return letters.length === 0 ? null : `New flats afterwards: ${letters.join(', ')}`;
}

/** What was found when it was settled; null while it is open. */
export function outcomeWords({ state, work, measuredDeg, frameUtcMs, settledByName }: VisitJob): string | null {
  if (state === 'open') return null;
  if (state === 'left') return `Left undone, says ${settledByName}`;
  if (work !== 'angle' || measuredDeg === null) return `Done, says ${settledByName}`;
  const from = frameUtcMs === null ? `measured by ${settledByName}` : `measured on a frame, confirmed by ${settledByName}`; // prettier-ignore
  return `Done: ${degrees(measuredDeg, 2)}, ${from}`;
}

/** How far a measured angle is from the one wanted, where that is more than the rig tolerates; else null. */
export function missedWords(work: Work, measuredDeg: number, equipment: Equipment): string | null {
  const rig = rigOf(equipment, work.rigId);
  if (!rig || work.skyAngleDeg === null) return null;
  const apart = angleApartDeg(work.skyAngleDeg, measuredDeg);
  return apart <= rig.angleToleranceDeg
    ? null
    : `${degrees(apart)} away from ${degrees(work.skyAngleDeg)}, more than the tolerance of ${degrees(rig.angleToleranceDeg)}: what wanted that angle stays closed`;
}

export type VisitStage = 'planned' | 'overdue' | 'over';

/** A visit whose day has passed is overdue until all of its work is settled. */
export function stageOf({ nightDate, jobs }: Visit, tonight: string): VisitStage {
  const isSettled = jobs.length > 0 && jobs.every(({ state }) => state !== 'open');
  if (isSettled) return 'over';
  return nightDate < tonight ? 'overdue' : 'planned';
}

/** "unlocks 14.2 h of the Lantern, 3.0 h of two others; blocks 4.1 h of Reed Cloud" */
export function hoursWords(moved: MovedHours): string {
  const part = (one: (typeof moved)[number]): string =>
    `${hours(Math.abs(one.hours))} h of ${one.name ?? 'others’ private projects'}`;
  const more = moved.filter((one) => one.hours > 0).map(part);
  const less = moved.filter((one) => one.hours < 0).map(part);
  return [more.length > 0 ? `unlocks ${more.join(', ')}` : '', less.length > 0 ? `blocks ${less.join(', ')}` : '']
    .filter(Boolean)
    .join('; ');
}

/** An advised job as one to be planned. */
export const plannedJob = ({
  rigId,
  skyAngleDeg,
  fitsId,
  removesId,
}: VisitAdvice['visits'][number]['jobs'][number]): NewVisitJob => ({
  rigId,
  work: fitsId === null ? 'angle' : 'filter',
  skyAngleDeg,
  fitsId,
  removesId,
  words: '',
});

/** Degrees as typed, within a turn; null where they are none. */
export function typedDegrees(text: string): number | null {
  const value = Number(text.replace('°', '').replace(',', '.').trim());
  return text.trim() === '' || !Number.isFinite(value) || value < 0 || value >= 360 ? null : value;
}

/** Filters that could be put in, and those that could make place. */
export function exchangeable({ filters }: Equipment, { slots }: Rig): { fits: Filter[]; removes: Filter[] } {
  const fitted = new Set(slots.map(({ filterId }) => filterId));
  return { fits: filters.filter(({ id }) => !fitted.has(id)), removes: filters.filter(({ id }) => fitted.has(id)) };
}
