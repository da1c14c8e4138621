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
}

export interface StayChain {
  readonly arriving: readonly string[];
  readonly leaving: readonly string[];
}

/** The steps around one stay, in order. */
export function stayChain({ switches, rotates, own, waitsBefore, waitsAfter }: StayAround): StayChain {
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
    ],
  };
}
