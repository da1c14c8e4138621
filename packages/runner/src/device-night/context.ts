// What everything in a night with devices works on.
import type { ClaimedRun, DeviceRun, RunStep, StepOutcome } from '@meridiem/contract';
import type { DeviceSet } from './device-set.ts';
import type { Journal } from './journal.ts';
import type { NightClock } from './night-clock.ts';
import type { SafetyWatch } from './safety-watch.ts';

export interface NightContext {
  readonly run: ClaimedRun;
  readonly deviceRun: DeviceRun;
  readonly devices: DeviceSet;
  readonly clock: NightClock;
  readonly journal: Journal;
  readonly safetyWatch: SafetyWatch;
  /** Where frames are kept. */
  readonly framesFolder: string;
}

export type ExposureOutcome = Pick<StepOutcome, 'outcome' | 'words' | 'exposure'>;

export interface NightHooks {
  /** Why what needs the sky must end now. */
  readonly interruption: () => 'unsafe' | 'stopped' | null;
  /** Before an exposure's command, and after it. */
  readonly begin: (step: RunStep) => void;
  readonly finish: (step: RunStep, outcome: ExposureOutcome) => void;
}
