import type { Static } from 'typebox';
import { Type } from 'typebox';
import { FilterClass, Id, IdParams, NightDateText, Nullable, oneOf, UtcMs } from './common.ts';
import { VERDICTS } from './ledger.ts';
import { JobShown } from './jobs.ts';
import { EVERYONE, operation } from './operation.ts';

const FilterNight = Type.Object({
  filterLetter: Type.String(),
  filterClass: FilterClass,
  accepted: Type.Integer(),
  undecided: Type.Integer(),
  rejected: Type.Integer(),
  acceptedHours: Type.Number(),
});

/** A night on which a project was exposed, numbered from its first. */
export const ProjectNight = Type.Object({
  number: Type.Integer(),
  nightDate: Type.String(),
  filters: Type.Array(FilterNight),
});
export type ProjectNight = Static<typeof ProjectNight>;

export const readProjectNights = operation({
  method: 'GET',
  path: '/projects/:id/nights',
  summary: 'What each night brought a project, oldest first, by filter and verdict.',
  access: EVERYONE,
  params: IdParams,
  response: Type.Object({ nights: Type.Array(ProjectNight) }),
});

export const Outlook = Type.Object({
  lookedAheadNights: Type.Integer(),
  nights: Type.Array(Type.Object({ nightDate: Type.String(), exposures: Type.Integer(), exposingSec: Type.Number() })),
  doneNightDate: Nullable(Type.String()),
  leftExposures: Type.Integer(),
  /** Goals without an end, which no night finishes. */
  openEnded: Type.Integer(),
});
export type Outlook = Static<typeof Outlook>;

/** The outlook where it has been worked out; else the job that does, if anybody has asked for it. */
const OutlookAnswer = Type.Object({ outlook: Nullable(Outlook), job: Nullable(JobShown) });

export const readProjectOutlook = operation({
  method: 'GET',
  path: '/projects/:id/outlook',
  summary: 'Nights a project still needs, where they have been worked out for what it now wants.',
  access: EVERYONE,
  params: IdParams,
  response: OutlookAnswer,
});

export const askProjectOutlook = operation({
  method: 'POST',
  path: '/projects/:id/outlook',
  summary:
    'Work out the nights a project still needs under clear skies with the rig its own, planned one after the other.',
  access: EVERYONE,
  isDear: true,
  params: IdParams,
  response: OutlookAnswer,
});

/** A goal's wish as it was changed, oldest first. */
export const readGoalHistory = operation({
  method: 'GET',
  path: '/goals/:id/history',
  summary:
    'How the count wanted of a goal changed, by whom, when and why; and its signal rate as predicted and as measured.',
  access: EVERYONE,
  params: IdParams,
  response: Type.Object({
    wishes: Type.Array(
      Type.Object({
        at: UtcMs,
        who: Type.String(),
        wanted: Nullable(Type.Number()),
        before: Nullable(Type.Number()),
        why: Nullable(Type.String()),
        isFirst: Type.Boolean(),
      }),
    ),
    /** Mean rates of accepted exposures, as shares of the best this target and filter reach. */
    light: Type.Object({
      exposures: Type.Integer(),
      predicted: Nullable(Type.Number()),
      measured: Nullable(Type.Number()),
    }),
  }),
});

export const ReviewRow = Type.Object({
  projectId: Id,
  projectName: Type.String(),
  ownerName: Type.String(),
  nights: Type.Integer(),
  accepted: Type.Integer(),
  undecided: Type.Integer(),
  rejected: Type.Integer(),
  acceptedHours: Type.Number(),
});
export type ReviewRow = Static<typeof ReviewRow>;

export const readReview = operation({
  method: 'GET',
  path: '/review',
  summary: 'What was gathered between two nights, over all projects.',
  access: EVERYONE,
  query: Type.Object({ from: NightDateText, to: NightDateText }),
  response: Type.Object({ projects: Type.Array(ReviewRow) }),
});

export const readReasons = operation({
  method: 'GET',
  path: '/exposures/reasons',
  summary: 'Why exposures were rejected, counted, by the same choices as the ledger’s page.',
  access: EVERYONE,
  query: Type.Object({
    project: Type.Optional(Id),
    filter: Type.Optional(Id),
    night: Type.Optional(NightDateText),
    verdict: Type.Optional(oneOf(VERDICTS)),
  }),
  response: Type.Object({ reasons: Type.Array(Type.Object({ reason: Type.String(), count: Type.Integer() })) }),
});
