// The season's allocation problem, freed from the sky: nights of one or several rigs, goals shared over all of them, and what the result is worth.

export interface SeasonGoal {
  /** Index into `panels`; the goals of a panel stand together. */
  readonly panel: number;
  /** Index into `filterChangeSec`. */
  readonly filter: number;
  /** Row of the lanes' rates; goals whose light is alike share one. */
  readonly row: number;
  readonly exposureSec: number;
  /** From the start of one exposure to the start of the next, its overheads included. */
  readonly cycleSec: number;
  /** Exposures wanted, and what counts as done before the season. */
  readonly wanted: number;
  readonly done: number;
  /** Whole exposures that one night may still place, and that all nights may, each times its night's odds. */
  readonly count: number;
  /** Value of one exposure at rate 1. */
  readonly value: number;
}

export interface SeasonPanel {
  /** Index into `projects`; the panels of a project stand together. */
  readonly project: number;
  /** Paid for each gain of the least fraction done among the panel's goals. */
  readonly balance: number;
}

export interface SeasonProject {
  /** Paid once when every goal of every panel has what it wants. */
  readonly bonus: number;
  /** Expected clock seconds that the season may spend on it without the moon and with it; none where left out. */
  readonly envelopeSec?: { readonly dark: number; readonly bright: number };
}

/** One rig in one night. */
export interface SeasonLane {
  readonly night: number;
  readonly rig: number;
  readonly slots: number;
  /** `[row · slots + slot]`; 0 where a row is closed. Lanes that see the same sky share the array. */
  readonly rates: Float32Array;
  /** Odds that the night is clear, (0, 1]: what is placed counts so much. */
  readonly odds: number;
  /** By slot: 1 where the moon is up; moonless all night where left out. */
  readonly moonlit?: Uint8Array;
}

export interface SeasonProblem {
  readonly slotSec: number;
  readonly goals: readonly SeasonGoal[];
  readonly panels: readonly SeasonPanel[];
  readonly projects: readonly SeasonProject[];
  /** In time order. */
  readonly lanes: readonly SeasonLane[];
  /** Travel between panels, `[from · panels + to]`, 0 on the diagonal. A lane's first arrival is free: it is part of getting ready. */
  readonly panelChangeSec: Float64Array;
  /** `[from · filters + to]`, 0 on the diagonal; on top of travel. */
  readonly filterChangeSec: Float64Array;
  readonly filters: number;
}

/** Exposures that a goal may lack and still be whole: none in a clear season; less than one where nights have odds, since expected counts come in fractions. */
export const lackAllowed = ({ lanes }: SeasonProblem): number => (lanes.some(({ odds }) => odds < 1) ? 1 - 1e-6 : 1e-6);

/** A run of one goal: whole exposures on end. */
export interface SeasonRun {
  readonly goal: number;
  readonly count: number;
  readonly startSec: number;
}

/** The runs of each lane, in time order. */
export type SeasonPlan = readonly (readonly SeasonRun[])[];

export interface SeasonValue {
  readonly value: number;
  readonly light: number;
  readonly balance: number;
  readonly completion: number;
}

/** Seconds from the last exposure of a goal to the first of another. */
export const changeBetweenSec = (
  { goals, panels, panelChangeSec, filterChangeSec, filters }: SeasonProblem,
  from: number,
  to: number,
): number =>
  panelChangeSec[goals[from].panel * panels.length + goals[to].panel] +
  filterChangeSec[goals[from].filter * filters + goals[to].filter];
