import type { Static } from 'typebox';
import { Type } from 'typebox';
import { Id, IdParams, Nullable, oneOf, Words } from './common.ts';
import { EVERYONE, MEMBERS, operation } from './operation.ts';

/** A panel as framed. */
export const FramedPanel = Type.Object({
  raDeg: Type.Number({ minimum: 0, exclusiveMaximum: 360 }),
  decDeg: Type.Number({ minimum: -90, maximum: 90 }),
  positionAngleDeg: Type.Number({ minimum: 0, exclusiveMaximum: 360 }),
});
export const FramedPanels = Type.Array(FramedPanel, { minItems: 1, maxItems: 100 });
export type FramedPanel = Static<typeof FramedPanel>;

/** How a target was framed, as the framing page writes it into its address. */
export const CompositionText = Type.String({ minLength: 1, maxLength: 4000 });

/** Exposures and hours by what becomes of their credit. */
const Credit = Type.Object({ exposures: Type.Integer(), hours: Type.Number() });

export const Reframing = Type.Object({
  panels: Type.Array(
    Type.Object({
      /** null for a new panel. */
      panelId: Nullable(Id),
      name: Type.String(),
      fate: oneOf(['stays', 'moves', 'new', 'dropped'] as const),
      movedArcmin: Nullable(Type.Number()),
      turnedDeg: Nullable(Type.Number()),
    }),
  ),
  /** Covering 90 % and more; half and more, where a person decides; less, which stay in the ledger without credit. */
  keep: Credit,
  ask: Credit,
  lose: Credit,
});
export type Reframing = Static<typeof Reframing>;

export const previewReframing = operation({
  method: 'POST',
  path: '/projects/:id/framing/preview',
  summary:
    'What reframing a project would do to its panels and to the credit of exposures already taken; nothing is written.',
  access: MEMBERS,
  isDear: true,
  params: IdParams,
  body: Type.Object({ panels: FramedPanels }),
  response: Reframing,
});

export const reframe = operation({
  method: 'POST',
  path: '/projects/:id/framing',
  summary:
    'Reframe a project. Exposures that cover a panel by 90 % keep their credit, from half on as said, the rest stay uncredited; can be undone.',
  access: MEMBERS,
  params: IdParams,
  body: Type.Object({
    panels: FramedPanels,
    doubtful: oneOf(['keep', 'lose'] as const),
    composition: Type.Optional(CompositionText),
  }),
  response: Reframing,
});

export const promoteTryOut = operation({
  method: 'POST',
  path: '/exposures/promotion',
  summary:
    'A draft project from exposures that belong to none: a panel where they looked, a goal for each recipe they were taken by, and their credit in it; can be undone.',
  access: MEMBERS,
  body: Type.Object({
    exposureIds: Type.Array(Id, { minItems: 1, maxItems: 1000, uniqueItems: true }),
    name: Words(80),
  }),
  response: Type.Object({ id: Id, credited: Type.Integer() }),
});

export const framedAngles = operation({
  method: 'GET',
  path: '/rigs/:id/angles',
  summary: 'Angles at which granted projects of a rig are framed; those of private projects without their names.',
  access: EVERYONE,
  params: IdParams,
  response: Type.Object({
    angles: Type.Array(
      Type.Object({
        positionAngleDeg: Type.Number(),
        projectId: Nullable(Id),
        projectName: Type.String(),
        panels: Type.Integer(),
      }),
    ),
  }),
});
