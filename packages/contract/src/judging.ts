import type { Static } from 'typebox';
import { Type } from 'typebox';
import { Id, IdParams, Nullable, Ok, UtcMs } from './common.ts';
import { COORDINATORS, EVERYONE, MEMBERS, operation } from './operation.ts';

const Sigmas = Nullable(Type.Number({ minimum: 1, maximum: 20 }));

/** Robust sigmas past which a figure rejects an exposure; null switches that rule off. */
export const Rules = Type.Object({
  starSize: Sigmas,
  starCount: Sigmas,
  guiding: Sigmas,
  background: Sigmas,
  elongation: Sigmas,
  /** That arrives, by the zero point of the measured file. */
  starlight: Sigmas,
});
export type Rules = Static<typeof Rules>;

export const readRules = operation({
  method: 'GET',
  path: '/rigs/:id/rules',
  summary: 'The judging rules in force on a rig, who set them and when.',
  access: EVERYONE,
  params: IdParams,
  response: Type.Object({ rules: Rules, setBy: Nullable(Type.String()), setUtcMs: Nullable(UtcMs) }),
});

export const RulesPreview = Type.Object({
  exposures: Type.Integer(),
  rejectedNow: Type.Integer(),
  wouldReject: Type.Integer(),
  /** Exposures that the rules would reject, by the figure that is furthest out. */
  byFigure: Type.Object({
    starSize: Type.Integer(),
    starCount: Type.Integer(),
    guiding: Type.Integer(),
    background: Type.Integer(),
    elongation: Type.Integer(),
    starlight: Type.Integer(),
  }),
});
export type RulesPreview = Static<typeof RulesPreview>;

export const previewRules = operation({
  method: 'POST',
  path: '/rigs/:id/rules/preview',
  summary: 'What rules would do to the newest exposures of each goal, before they are set.',
  access: COORDINATORS,
  isDear: true,
  params: IdParams,
  body: Rules,
  response: RulesPreview,
});

export const setRules = operation({
  method: 'PUT',
  path: '/rigs/:id/rules',
  summary: 'Set a rig’s judging rules; its newest exposures are judged again, verdicts by hand stay.',
  access: COORDINATORS,
  params: IdParams,
  body: Rules,
  response: Ok,
});

export const Alert = Type.Object({ id: Id, atUtcMs: UtcMs, words: Type.String() });
export type Alert = Static<typeof Alert>;

export const listAlerts = operation({
  method: 'GET',
  path: '/alerts',
  summary: 'Alerts that need a look, newest first, until one is marked as seen.',
  access: EVERYONE,
  response: Type.Object({ alerts: Type.Array(Alert) }),
});

export const markAlertSeen = operation({
  method: 'POST',
  path: '/alerts/:id/seen',
  summary: 'Say that an alert has been looked at.',
  access: MEMBERS,
  params: IdParams,
  response: Ok,
});
