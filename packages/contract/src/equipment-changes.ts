// How equipment is changed: every number by a dated revision, what is offered no longer by retiring it.
import type { Static } from 'typebox';
import { Type } from 'typebox';
import { FilterClass, Id, IdParams, Nullable, oneOf, optional, UtcMs, Version, Words } from './common.ts';
import { FilterSlots, ModeNumbers, OwnStep, RECIPE_KINDS, RecipeNumbers, RigNumbers } from './equipment.ts';
import { Observatory } from './observatory.ts';
import { COORDINATORS, EVERYONE, MEMBERS, operation } from './operation.ts';

export const addRig = operation({
  method: 'POST',
  path: '/rigs',
  summary:
    'A new rig with its camera and one camera mode; filters are put into its wheel in their order as far as it has places, offsets not measured.',
  access: COORDINATORS,
  body: Type.Object({ name: Words(80), ...RigNumbers, mode: Type.Object({ name: Words(60), ...ModeNumbers }) }),
  response: Observatory,
});

export const copyRig = operation({
  method: 'POST',
  path: '/rigs/:id/copy',
  summary: 'Another rig with the same numbers, camera modes, filters, steps and recipes; no projects, no exposures.',
  access: COORDINATORS,
  params: IdParams,
  body: Type.Object({ name: Words(80), cameraSerial: Words(60) }),
  response: Observatory,
});

export const renameRig = operation({
  method: 'PATCH',
  path: '/rigs/:id',
  summary: 'Give a rig another name.',
  access: COORDINATORS,
  params: IdParams,
  body: Type.Object({ name: Words(80) }),
  response: Observatory,
});

export const retireRig = operation({
  method: 'DELETE',
  path: '/rigs/:id',
  summary: 'Take a rig out of service for good: no plan uses it any more; its exposures stay in the ledger.',
  access: COORDINATORS,
  params: IdParams,
  response: Observatory,
});

export const restoreRetired = operation({
  method: 'POST',
  path: '/retired/:id/restore',
  summary: 'Bring a retired rig, filter, camera mode or recipe back.',
  access: COORDINATORS,
  params: IdParams,
  response: Observatory,
});

export const addCameraMode = operation({
  method: 'POST',
  path: '/rigs/:id/camera-modes',
  summary: 'One more mode of a rig’s camera.',
  access: COORDINATORS,
  params: IdParams,
  body: Type.Object({ name: Words(60), ...ModeNumbers }),
  response: Observatory,
});

export const reviseCameraMode = operation({
  method: 'POST',
  path: '/camera-modes/:id/revisions',
  summary: 'Correct a camera mode from now on; exposures taken before keep the numbers of their time.',
  access: COORDINATORS,
  params: IdParams,
  body: Type.Object({ basedOnSeq: Type.Integer(), name: Type.Optional(Words(60)), ...optional(ModeNumbers) }),
  response: Observatory,
});

export const retireCameraMode = operation({
  method: 'DELETE',
  path: '/camera-modes/:id',
  summary: 'Offer a camera mode no longer; refused while a recipe in use has it, or where it is the last.',
  access: COORDINATORS,
  params: IdParams,
  response: Observatory,
});

/** What of a rig is to be changed; what is left out stays. */
export const RigWish = Type.Object({ ...optional(RigNumbers), slots: Type.Optional(FilterSlots) });
export type RigWish = Static<typeof RigWish>;

/** What becomes of goals that are under way when their rig gets other optics or another camera: they go on and mix both, new ones
 * beside them want what is still missing, or nothing more is wanted. */
export const GOAL_FATES = ['same', 'new', 'close'] as const;
export type GoalFate = (typeof GOAL_FATES)[number];

/** One thing that a change of a rig touches and what becomes of it. */
export const RigEffect = Type.Object({
  about: oneOf(['framings', 'goals', 'flats', 'plans', 'exposures'] as const),
  projectId: Nullable(Id),
  projectName: Nullable(Type.String()),
  words: Type.String(),
  isLoss: Type.Boolean(),
  /** Goals of the project that are under way with other optics: what becomes of them is asked; 0 where nothing is. */
  asksForGoals: Type.Integer(),
});
export type RigEffect = Static<typeof RigEffect>;

export const previewRig = operation({
  method: 'POST',
  path: '/rigs/:id/revisions/preview',
  summary: 'What a change of a rig would touch and what would become of each; nothing is written.',
  access: COORDINATORS,
  isDear: true,
  params: IdParams,
  body: RigWish,
  response: Type.Object({ effects: Type.Array(RigEffect) }),
});

export const reviseRig = operation({
  method: 'POST',
  path: '/rigs/:id/revisions',
  summary: 'Change a rig’s numbers from now on; earlier exposures keep the revision they were taken with.',
  access: COORDINATORS,
  params: IdParams,
  body: Type.Object({
    basedOnSeq: Type.Integer(),
    ...RigWish.properties,
    /** Of projects that are left out the goals go on as they are. */
    goalFates: Type.Optional(Type.Array(Type.Object({ projectId: Id, fate: oneOf(GOAL_FATES) }), { maxItems: 1000 })),
  }),
  response: Observatory,
});

/** What exposures before and after a change of a rig were like; medians, null where too few were measured. */
const GearFigures = Type.Object({
  exposures: Type.Integer(),
  halfFluxRadiusArcsec: Nullable(Type.Number()),
  guidingRmsArcsec: Nullable(Type.Number()),
  /** From the end of one exposure to the start of the next of the same filter in one night. */
  gapSec: Nullable(Type.Number()),
});
export type GearFigures = Static<typeof GearFigures>;

export const readGearChanges = operation({
  method: 'GET',
  path: '/rigs/:id/gear-changes',
  summary:
    'When optics or camera of a rig were changed, and star size, guiding and overhead of the exposures around it.',
  access: EVERYONE,
  params: IdParams,
  response: Type.Object({
    changes: Type.Array(
      Type.Object({
        sinceUtcMs: UtcMs,
        words: Type.String(),
        before: GearFigures,
        after: GearFigures,
      }),
    ),
  }),
});

export const setLearnsTimes = operation({
  method: 'PUT',
  path: '/rigs/:id/learns-times',
  summary: 'Say whether the times of a rig are set, after each night by devices, by what its steps have taken.',
  access: COORDINATORS,
  params: IdParams,
  body: Type.Object({ learnsTimes: Type.Boolean() }),
  response: Observatory,
});

export const setRigSteps = operation({
  method: 'PUT',
  path: '/rigs/:id/steps',
  summary: 'The steps that people add around a rig’s stays and waits, in order.',
  access: COORDINATORS,
  params: IdParams,
  body: Type.Object({ steps: Type.Array(OwnStep, { maxItems: 40 }) }),
  response: Observatory,
});

const FilterFields = {
  /** The short name on plans and tabs. */
  letter: Words(8),
  name: Words(80),
  class: FilterClass,
  centreNm: Type.Number({ minimum: 300, maximum: 1200 }),
  widthNm: Type.Number({ exclusiveMinimum: 0, maximum: 800 }),
  extinctionMagPerAirmass: Type.Number({ minimum: 0, maximum: 2 }),
  zenithMag: Type.Number({ minimum: 14, maximum: 25 }),
  moonFactor: Type.Number({ minimum: 0, maximum: 20 }),
};

export const addFilter = operation({
  method: 'POST',
  path: '/filters',
  summary: 'One more filter; it is fitted to no rig yet.',
  access: COORDINATORS,
  body: Type.Object(FilterFields),
  response: Observatory,
});

export const editFilter = operation({
  method: 'PATCH',
  path: '/filters/:id',
  summary: 'Change a filter’s names, class or numbers.',
  access: COORDINATORS,
  params: IdParams,
  body: Type.Object({ version: Version, ...optional(FilterFields) }),
  response: Observatory,
});

export const retireFilter = operation({
  method: 'DELETE',
  path: '/filters/:id',
  summary: 'Take a filter off the list; refused while it is fitted to a rig or a recipe in use has it.',
  access: COORDINATORS,
  params: IdParams,
  response: Observatory,
});

export const addRecipe = operation({
  method: 'POST',
  path: '/recipes',
  summary:
    'A new named recipe; light, flat and test frames need a definite filter. A member’s recipe is the member’s own; a coordinator’s is everybody’s.',
  access: MEMBERS,
  body: Type.Object({
    name: Words(60),
    rigId: Id,
    kind: oneOf(RECIPE_KINDS),
    filterId: Nullable(Id),
    ...RecipeNumbers,
  }),
  response: Observatory,
});

export const reviseRecipe = operation({
  method: 'POST',
  path: '/recipes/:id/revisions',
  summary: 'A new revision of a recipe by its owner or a coordinator; goals keep the one they pin.',
  access: MEMBERS,
  params: IdParams,
  body: Type.Object({ basedOnSeq: Type.Integer(), ...optional(RecipeNumbers) }),
  response: Observatory,
});

export const renameRecipe = operation({
  method: 'PATCH',
  path: '/recipes/:id',
  summary: 'Give a recipe another name, by its owner or a coordinator.',
  access: MEMBERS,
  params: IdParams,
  body: Type.Object({ name: Words(60) }),
  response: Observatory,
});

export const retireRecipe = operation({
  method: 'DELETE',
  path: '/recipes/:id',
  summary: 'Offer a recipe no longer, by its owner or a coordinator; goals that have it keep it.',
  access: MEMBERS,
  params: IdParams,
  response: Observatory,
});
