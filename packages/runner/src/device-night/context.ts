// What everything in a night with devices works on.
import type {
  CalibrationToTake,
  ClaimedRun,
  DeviceRun,
  RunStep,
  StepOutcome,
  TakenCalibration,
} from '@meridiem/contract';
import type { NightRules } from '@meridiem/core';
import type { FrameFile } from '../kept-reports.ts';
import type { DeviceSet } from './device-set.ts';
import type { HandOrders } from './hand-orders.ts';
import type { Journal } from './journal.ts';
import type { NightClock } from './night-clock.ts';
import type { SafetyWatch } from './safety-watch.ts';
import type { SiteWatch } from './site-watch.ts';

export interface NightContext {
  readonly run: ClaimedRun;
  readonly deviceRun: DeviceRun;
  readonly devices: DeviceSet;
  readonly clock: NightClock;
  readonly journal: Journal;
  readonly safetyWatch: SafetyWatch;
  readonly siteWatch: SiteWatch;
  /** The numbers by which this rig’s nights are carried out. */
  readonly rules: NightRules;
  /** Where frames are kept. */
  readonly framesFolder: string;
}

export interface ExposureOutcome extends Pick<StepOutcome, 'outcome' | 'words' | 'exposure'> {
  /** The file; null where no frame came of it. */
  readonly frame: FrameFile | null;
}

/** Why what needs the sky must end now: the sky, the air, the end of the night, a server that has not been heard for too long,
 * a target that a person leaves. */
export type Interruption = 'unsafe' | 'paused' | 'stopped' | 'unheard' | 'left';

/** Whether it ends the night. */
export const endsTheNight = (why: string | null): why is 'stopped' | 'unheard' =>
  why === 'stopped' || why === 'unheard';

export interface NightHooks {
  readonly interruption: () => Interruption | null;
  /** What people have said to this night and what is not yet carried out of it. */
  readonly orders: HandOrders;
  /** Before an exposure's command, and after it. */
  readonly begin: (step: RunStep) => void;
  readonly finish: (step: RunStep, outcome: ExposureOutcome) => void;
  /** What is left of the night, planned again from a moment on; null where nobody can be asked: the plan at hand goes on. */
  readonly planAgain: (fromUtcMs: number, withoutPanelIds: readonly string[]) => Promise<readonly RunStep[] | null>;
  /** Calibration that this night's lights lack; null where nobody can be asked. */
  readonly calibrationToTake: () => Promise<CalibrationToTake | null>;
  readonly keepCalibration: (taken: TakenCalibration, frame: FrameFile) => void;
}
