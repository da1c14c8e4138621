// The chain of steps on arriving at and leaving a panel, with what a project switches off and what a rig's people add.

/** When somebody's own step is done. Each once per stay: a stay that goes on repeats nothing. */
export const STEP_MOMENTS = ['arriving', 'leaving', 'before_wait', 'after_wait'] as const;
export type StepMoment = (typeof STEP_MOMENTS)[number];

/** A step that people have added to a rig's chain. */
export interface OwnStep {
  readonly moment: StepMoment;
  readonly words: string;
}

/** What arriving at a panel of a project includes; on unless a person turns it off. */
export interface ArrivalSwitches {
  readonly guide: boolean;
  readonly centre: boolean;
  readonly focus: boolean;
}
export const DEFAULT_ARRIVAL: ArrivalSwitches = { guide: true, centre: true, focus: true };

export interface StayAround {
  readonly switches: ArrivalSwitches;
  /** Whether the camera is turned by motor. */
  readonly rotates: boolean;
  readonly own: readonly OwnStep[];
  /** Whether the rig waits before this stay, and after it. */
  readonly waitsBefore: boolean;
  readonly waitsAfter: boolean;
  /** How the rig is left after its last stay; null while others follow. */
  readonly parking: Parking | null;
}

/** Where a telescope is parked, as far as anyone has said, and whether the roof closes over it only there. */
export interface Parking {
  readonly stow: { readonly altitudeDeg: number; readonly azimuthDeg: number } | null;
  readonly roofClears: 'any' | 'stowed';
}

/** The last steps of a night. */
function parkingSteps({ stow, roofClears }: Parking): string[] {
  const place = stow ? ` at altitude ${stow.altitudeDeg}°, azimuth ${stow.azimuthDeg}°` : '';
  if (roofClears === 'stowed') return [`park${place}`, 'only then close the roof'];
  return stow ? [`park${place}`] : [];
}

export interface StayChain {
  readonly arriving: readonly string[];
  readonly leaving: readonly string[];
}

/** The steps around one stay, in order. */
export function stayChain({ switches, rotates, own, waitsBefore, waitsAfter, parking }: StayAround): StayChain {
  const added = (moment: StepMoment): string[] =>
    own.filter((step) => step.moment === moment).map(({ words }) => words);
  return {
    arriving: [
      ...(waitsBefore ? added('after_wait') : []),
      'slew and settle',
      ...(rotates ? ['turn the camera'] : []),
      ...(switches.centre ? ['centre'] : []),
      'set the filter',
      ...(switches.focus ? ['focus'] : []),
      ...(switches.guide ? ['start guiding'] : []),
      ...added('arriving'),
    ],
    leaving: [
      ...(switches.guide ? ['stop guiding'] : []),
      ...added('leaving'),
      ...(waitsAfter ? added('before_wait') : []),
      ...(parking ? parkingSteps(parking) : []),
    ],
  };
}
