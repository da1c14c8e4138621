// What a night's plan is made from and what comes out, in the words of the observatory.
import type { FilterClass, FilterSky } from '../../exposure/filter-sky.ts';
import type { Detector } from '../../exposure/signal-rate.ts';
import type { ExposureSettings, StepCosts } from '../../exposure/time-cost.ts';
import type { Bounds, LimitsInForce, StoredLimit } from '../../limits/limit-values.ts';
import type { Gap } from '../../limits/windows.ts';
import type { HorizonProfile } from '../../sky/horizon.ts';
import type { Site, SkyPosition } from '../../sky/site.ts';
import type { Interval, ObservingNight } from '../../time/nights.ts';
import type { UtcMs } from '../../units.ts';
import type { ArrivalSwitches } from '../arrival.ts';
import type { BrokenWish, NightWish } from '../hand/wishes.ts';

export type RotatorKind = 'motor' | 'hand' | 'none';
export type MountKind = 'german_equatorial' | 'fork_equatorial' | 'alt_azimuth';

export interface NightRig {
  readonly detector: Omit<Detector, 'binning' | 'readNoiseE'>;
  readonly costs: StepCosts;
  readonly mountKind: MountKind;
  /** A German mount stops exposing this long before the meridian and may go on this long after it, before it flips. */
  readonly flipBeforeSec: number;
  readonly flipAfterSec: number;
  readonly rotatorKind: RotatorKind;
  /** Sky position angle of the camera now; null where it was never measured. */
  readonly skyAngleDeg: number | null;
  readonly angleToleranceDeg: number;
}

export interface RequestedFilter extends FilterSky {
  readonly id: string;
  /** Whether the focus offset is measured: if not, changing to it refocuses. */
  readonly offsetKnown: boolean;
}

export interface RequestedProject {
  readonly id: string;
  /** Grade × fairness × own rank. */
  readonly weight: number;
  readonly limits: readonly StoredLimit[];
  /** How the panels of a mosaic share a night; free where left out. */
  readonly panelOrder?: PanelOrder;
  /** What arriving at its panels includes; everything where left out. */
  readonly arrival?: ArrivalSwitches;
}

/** free: whenever it adds most; one_per_night: a single panel each night; in_turn: each panel at most its share of the night. */
export const PANEL_ORDERS = ['free', 'one_per_night', 'in_turn'] as const;
export type PanelOrder = (typeof PANEL_ORDERS)[number];

export interface RequestedPanel {
  readonly id: string;
  readonly projectId: string;
  readonly position: SkyPosition | null;
  readonly positionAngleDeg: number;
}

export interface RequestedGoal {
  readonly id: string;
  readonly panelId: string;
  readonly filterId: string;
  readonly settings: ExposureSettings;
  readonly binning: number;
  readonly readNoiseE: number;
  /** At the goal's sensor temperature; the rig's own where left out. */
  readonly darkCurrentEPerSec?: number;
  /** Whole exposures that may be placed. */
  readonly toPlan: number;
  /** Exposure equivalents done and wanted; wanted null = open-ended. */
  readonly done: number;
  readonly wanted: number | null;
  readonly limits: readonly StoredLimit[];
  /** Exposures of a group where the filters of its panel alternate, with a dither a round; 0 or left out = one filter after the other. */
  readonly groupOf?: number;
  /** The project that counts its exposures as well: its weight, and its and its goal's limits, which hold too. */
  readonly sharedWith?: { readonly weight: number; readonly limits: readonly StoredLimit[] };
  /** The joined goal whose exposures it counts as well, of which `toPlan` has none. */
  readonly comesWith?: string;
}

export interface NightRequest {
  readonly site: Site;
  readonly timeZone: string;
  readonly night: ObservingNight;
  /** Plan only what comes after this moment; null plans the whole night. */
  readonly fromUtcMs: UtcMs | null;
  readonly zenithMagV: number;
  readonly horizon: HorizonProfile;
  readonly bounds: Bounds;
  readonly observatoryLimits: readonly StoredLimit[];
  readonly rig: NightRig;
  readonly filters: readonly RequestedFilter[];
  readonly projects: readonly RequestedProject[];
  readonly panels: readonly RequestedPanel[];
  readonly goals: readonly RequestedGoal[];
  /** What hands have set for this night. */
  readonly wishes?: readonly NightWish[];
  /** The plan before, to stay near to. */
  readonly kept?: readonly KeptRun[];
  /** Chance in an hour that the night ends, as the rate of an exponential law; the order allows for it. None where left out. */
  readonly endHazardPerHour?: number;
}

/** A run of an earlier plan. */
export interface KeptRun {
  readonly goalId: string;
  readonly startUtcMs: UtcMs;
  readonly count: number;
}

/** One goal under tonight's sky. */
export interface GoalNight {
  readonly goalId: string;
  readonly filterClass: FilterClass;
  readonly limits: LimitsInForce;
  readonly windows: readonly Interval[];
  readonly gaps: readonly Gap[];
  /** Signal rate over the target's own best, per sample of the table. */
  readonly rateShare: Float64Array;
  /** Set where the goal can't be planned whatever the sky. */
  readonly blocked: BlockedReason | null;
}

export type BlockedReason =
  | { readonly code: 'NO_POSITION' }
  | { readonly code: 'CAMERA_ANGLE'; readonly actualDeg: number; readonly limitDeg: number }
  | { readonly code: 'ANGLE_UNKNOWN' }
  | { readonly code: 'OTHER_PANEL' };

export interface PlannedRun {
  readonly goalId: string;
  readonly startUtcMs: UtcMs;
  readonly endUtcMs: UtcMs;
  readonly exposureStartsUtcMs: readonly UtcMs[];
  readonly exposureSec: number;
  /** Mean rate share over the run, [0, 1]. */
  readonly meanRateShare: number;
}

export interface PlannedBlock {
  readonly panelId: string;
  /** When the slew begins. */
  readonly startUtcMs: UtcMs;
  readonly endUtcMs: UtcMs;
  readonly runs: readonly PlannedRun[];
}

export type Omission =
  | { readonly goalId: string; readonly code: 'NOTHING_LEFT' | 'LEFT_OUT_BY_HAND' | 'HELD_BY_HAND' }
  | { readonly goalId: string; readonly code: 'WITH_ANOTHER'; readonly leadGoalId: string }
  | {
      readonly goalId: string;
      readonly code: BlockedReason['code'];
      readonly actual: number | null;
      readonly limit: number | null;
    }
  | { readonly goalId: string; readonly code: 'NO_WINDOW'; readonly gap: Gap | null }
  | {
      readonly goalId: string;
      readonly code: 'WINDOW_TOO_SHORT';
      readonly longestSec: number;
      readonly neededSec: number;
    }
  | {
      readonly goalId: string;
      readonly code: 'OUTBID';
      /** The goal that holds most of this one's windows. */
      readonly rivalGoalId: string | null;
      /** Value per hour of the rival there, and of this goal at its best. */
      readonly rivalPerHour: number;
      readonly ownPerHour: number;
    };

export interface NightPlan {
  readonly blocks: readonly PlannedBlock[];
  readonly omissions: readonly Omission[];
  readonly value: number;
  /** Hand changes that could not be kept whole. */
  readonly broken?: readonly BrokenWish[];
}
