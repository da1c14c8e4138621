import { PANEL_ORDERS } from '@meridiem/core';
import type { Static } from 'typebox';
import { Type } from 'typebox';
import {
  FilterClass,
  Id,
  IdParams,
  Interval,
  NightDateText,
  Nullable,
  Ok,
  oneOf,
  UtcMs,
  Version,
  Words,
} from './common.ts';
import { RecipeNumbers } from './equipment.ts';
import { CompositionText, FramedPanels } from './framing.ts';
import { LimitRow, LimitShown } from './limits.ts';
import { EVERYONE, MEMBERS, operation } from './operation.ts';

export const PROJECT_STATES = ['draft', 'proposed', 'returned', 'queued', 'granted', 'retired'] as const;
export const COUNTING_POLICIES = ['all', 'after_rules', 'after_person'] as const;

/** Exposure equivalents and hours of one goal, from the ledger. */
export const Tally = Type.Object({
  accepted: Type.Number(),
  undecided: Type.Number(),
  rejected: Type.Number(),
  wanted: Nullable(Type.Integer()),
  acceptedHours: Type.Number(),
  undecidedHours: Type.Number(),
  rejectedHours: Type.Number(),
  wantedHours: Nullable(Type.Number()),
  effectiveHours: Type.Number(),
  done: Type.Number(),
  toPlan: Nullable(Type.Integer()),
});
export type Tally = Static<typeof Tally>;

/** One obstacle or reason with its numbers, worded by the web. */
export const Reason = Type.Object({
  code: Type.String(),
  limit: Nullable(Type.Number()),
  best: Nullable(Type.Number()),
  worst: Nullable(Type.Number()),
  origin: Nullable(Type.String()),
  rival: Nullable(Type.String()),
  interval: Nullable(Interval),
});
export type Reason = Static<typeof Reason>;

/** What tonight holds for a goal: the hours a plan could use, and why not when there are none. */
export const Chance = Type.Object({
  windows: Type.Array(Interval),
  usableHours: Type.Number(),
  planned: Type.Integer(),
  plannedEndUtcMs: Nullable(UtcMs),
  reason: Nullable(Reason),
});
export type Chance = Static<typeof Chance>;

export const Goal = Type.Object({
  id: Id,
  panelId: Id,
  recipeId: Id,
  recipeName: Type.String(),
  recipeRevisionSeq: Type.Integer(),
  newerRevisionSeq: Nullable(Type.Integer()),
  filterId: Id,
  filterLetter: Type.String(),
  filterClass: FilterClass,
  exposureSec: Type.Number(),
  gain: Type.Integer(),
  offset: Type.Integer(),
  binning: Type.Integer(),
  ditherEvery: Type.Integer(),
  ditherPx: Type.Number(),
  /** The middle of the sensor that is read; null for all of it. */
  region: RecipeNumbers.region,
  wanted: Nullable(Type.Integer()),
  enabled: Type.Boolean(),
  why: Nullable(Type.String()),
  version: Version,
  tally: Tally,
  /** Time still to spend, exposing and overhead apart; null for an open-ended goal. */
  leftExposingSec: Nullable(Type.Number()),
  leftOverheadSec: Nullable(Type.Number()),
  limits: Type.Array(LimitShown),
  ownLimits: Type.Array(LimitRow),
  tonight: Nullable(Chance),
  /** Time from one exposure to the next, overheads included. */
  cycleSec: Type.Number(),
  /** How its settings differ from the project’s newest exposures through this filter; null where they are alike or there are none. */
  differs: Nullable(Type.String()),
  /** What its exposures mix that should not be mixed: gains, cameras; null where all are alike. */
  mixed: Nullable(Type.String()),
});
export type Goal = Static<typeof Goal>;

export const Panel = Type.Object({
  id: Id,
  name: Type.String(),
  raDeg: Nullable(Type.Number()),
  decDeg: Nullable(Type.Number()),
  positionAngleDeg: Type.Number(),
  share: Type.Number(),
  goals: Type.Array(Goal),
});
export type Panel = Static<typeof Panel>;

/** How a filter was exposed for a project before. */
export const EarlierSettings = Type.Object({
  filterId: Id,
  filterLetter: Type.String(),
  exposureSec: Type.Number(),
  gain: Nullable(Type.Integer()),
  binning: Type.Integer(),
  sensorC: Nullable(Type.Number()),
  /** The recipe of its rig with these settings; null where none has them. */
  recipeId: Nullable(Id),
});
export type EarlierSettings = Static<typeof EarlierSettings>;

const Summary = {
  id: Id,
  name: Type.String(),
  targetName: Type.String(),
  ownerId: Id,
  ownerName: Type.String(),
  rigId: Id,
  rigName: Type.String(),
  state: oneOf(PROJECT_STATES),
  resting: Type.Boolean(),
  complete: Type.Boolean(),
  counting: oneOf(COUNTING_POLICIES),
  judging: Type.Boolean(),
  private: Type.Boolean(),
  grade: Type.Integer(),
  deadline: Nullable(Type.String()),
  /** Nights after the last one until work counts nothing any more; null for nothing at once. */
  decayNights: Nullable(Type.Integer()),
  /** How the panels of a mosaic share a night. */
  panelOrder: oneOf(PANEL_ORDERS),
  /** Exposures of a filter before the next one; 0 finishes each filter before the next. */
  filterGroup: Type.Integer(),
  /** Steps of arriving at a target. */
  stepGuide: Type.Boolean(),
  stepCentre: Type.Boolean(),
  stepFocus: Type.Boolean(),
  why: Nullable(Type.String()),
  /** The owner’s own order among their projects: 3 first, 1 last. */
  ownRank: Type.Integer(),
  share: Type.Number(),
  version: Version,
  mayEdit: Type.Boolean(),
  /** Whether its target moves: places come from its orbit. */
  moves: Type.Boolean(),
  /** How its target was last framed. */
  composition: Nullable(CompositionText),
};

export const FilterProgress = Type.Object({ filterLetter: Type.String(), filterClass: FilterClass, tally: Tally });

export const ProjectRow = Type.Object({
  ...Summary,
  panelCount: Type.Integer(),
  /** The panel of a mosaic that is behind all others; null where none is alone. */
  heldBackBy: Nullable(Type.String()),
  filters: Type.Array(FilterProgress),
  tonight: Type.Object({
    usableHours: Type.Number(),
    planned: Type.Integer(),
    windows: Type.Array(Interval),
    reason: Nullable(Reason),
  }),
});
export type ProjectRow = Static<typeof ProjectRow>;

export const Project = Type.Object({
  ...Summary,
  panels: Type.Array(Panel),
  limits: Type.Array(LimitRow),
  observatoryLimits: Type.Array(LimitRow),
  night: Interval,
  acceptanceRate: Type.Number(),
  /** How its filters were exposed before, by letter. */
  earlier: Type.Array(EarlierSettings),
});
export type Project = Static<typeof Project>;

export const listProjects = operation({
  method: 'GET',
  path: '/projects',
  summary: 'All projects with progress per filter and tonight’s chance.',
  access: EVERYONE,
  response: Type.Object({ projects: Type.Array(ProjectRow) }),
});

export const readProject = operation({
  method: 'GET',
  path: '/projects/:id',
  summary: 'One project.',
  access: EVERYONE,
  params: IdParams,
  response: Project,
});

export const addProject = operation({
  method: 'POST',
  path: '/projects',
  summary:
    'A new project with one target and one panel, or a mosaic as framed; the place comes from the catalogue or typed coordinates, or is still open.',
  access: MEMBERS,
  body: Type.Object({
    name: Words(80),
    rigId: Id,
    targetName: Words(80),
    /** A target of the shelf, which may move; a new one where left out. */
    targetId: Type.Optional(Id),
    raText: Type.String({ maxLength: 40 }),
    decText: Type.String({ maxLength: 40 }),
    positionAngleDeg: Type.Number({ minimum: 0, exclusiveMaximum: 360 }),
    /** As framed; one panel at the target where left out. */
    panels: Type.Optional(FramedPanels),
    composition: Type.Optional(CompositionText),
  }),
  response: Type.Object({ id: Id }),
});

export const copyProject = operation({
  method: 'POST',
  path: '/projects/:id/copy',
  summary:
    'A draft of one’s own with the same target, panels and limits, with or without the goals; never with what was gathered.',
  access: MEMBERS,
  params: IdParams,
  body: Type.Object({ name: Words(80), withGoals: Type.Boolean() }),
  response: Type.Object({ id: Id }),
});

export const editProject = operation({
  method: 'PATCH',
  path: '/projects/:id',
  summary: 'Change fields of a project; each field merges on its own.',
  access: MEMBERS,
  params: IdParams,
  body: Type.Object({
    version: Version,
    name: Type.Optional(Words(80)),
    state: Type.Optional(oneOf(PROJECT_STATES)),
    resting: Type.Optional(Type.Boolean()),
    counting: Type.Optional(oneOf(COUNTING_POLICIES)),
    /** Whether rules judge its exposures. */
    judging: Type.Optional(Type.Boolean()),
    /** Shown to others as reserved. */
    private: Type.Optional(Type.Boolean()),
    grade: Type.Optional(Type.Integer({ minimum: 1, maximum: 3 })),
    /** The last night that counts; null for none. */
    deadline: Type.Optional(Nullable(NightDateText)),
    /** Nights after it over which work counts less and less; null for nothing at once. */
    decayNights: Type.Optional(Nullable(Type.Integer({ minimum: 1, maximum: 90 }))),
    panelOrder: Type.Optional(oneOf(PANEL_ORDERS)),
    filterGroup: Type.Optional(Type.Integer({ minimum: 0, maximum: 20 })),
    stepGuide: Type.Optional(Type.Boolean()),
    stepCentre: Type.Optional(Type.Boolean()),
    stepFocus: Type.Optional(Type.Boolean()),
    ownRank: Type.Optional(Type.Integer({ minimum: 1, maximum: 3 })),
    why: Type.Optional(Nullable(Type.String({ maxLength: 500 }))),
  }),
  response: Ok,
});

export const editPanel = operation({
  method: 'PATCH',
  path: '/panels/:id',
  summary: 'Give a panel a new pointing; earlier pointings stay in its history.',
  access: MEMBERS,
  params: IdParams,
  body: Type.Object({
    raText: Type.String({ maxLength: 40 }),
    decText: Type.String({ maxLength: 40 }),
    positionAngleDeg: Type.Number({ minimum: 0, exclusiveMaximum: 360 }),
  }),
  response: Ok,
});

export const addGoal = operation({
  method: 'POST',
  path: '/goals',
  summary: 'Want exposures through a recipe, on one panel or on all panels of its project.',
  access: MEMBERS,
  body: Type.Object({
    panelId: Id,
    recipeId: Id,
    wanted: Nullable(Type.Integer({ minimum: 0, maximum: 100000 })),
    allPanels: Type.Boolean(),
  }),
  response: Type.Object({ ids: Type.Array(Id) }),
});

export const editGoal = operation({
  method: 'PATCH',
  path: '/goals/:id',
  summary:
    'Change what is wanted, switch on or off, give the why, take the newest recipe revision, or another recipe of the same filter; exposures keep their credit.',
  access: MEMBERS,
  params: IdParams,
  body: Type.Object({
    version: Version,
    wanted: Type.Optional(Nullable(Type.Integer({ minimum: 0, maximum: 100000 }))),
    enabled: Type.Optional(Type.Boolean()),
    why: Type.Optional(Nullable(Type.String({ maxLength: 500 }))),
    takeNewestRevision: Type.Optional(Type.Literal(true)),
    recipeId: Type.Optional(Id),
  }),
  response: Ok,
});

export const removeGoal = operation({
  method: 'DELETE',
  path: '/goals/:id',
  summary: 'Remove a goal that has no exposures, with undo; one that has can be switched off.',
  access: MEMBERS,
  params: IdParams,
  response: Ok,
});
