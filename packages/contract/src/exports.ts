import { Type } from 'typebox';
import { Id, NightDateText, oneOf } from './common.ts';
import { VERDICTS } from './ledger.ts';
import { EVERYONE, operation } from './operation.ts';

export const MAX_EXPORT_ROWS = 100_000;
const Format = Type.Optional(oneOf(['csv', 'votable'] as const));

export const exportLedger = operation({
  method: 'GET',
  path: '/exports/ledger',
  media: ['text/csv', 'application/x-votable+xml'],
  summary: 'The ledger as CSV or VOTable, by the same choices as its page; importable again.',
  access: EVERYONE,
  isDear: true,
  query: Type.Object({
    format: Format,
    project: Type.Optional(Id),
    filter: Type.Optional(Id),
    night: Type.Optional(NightDateText),
    verdict: Type.Optional(oneOf(VERDICTS)),
  }),
  response: Type.String(),
});

export const exportTargets = operation({
  method: 'GET',
  path: '/exports/targets',
  media: ['text/csv', 'application/x-votable+xml'],
  summary: 'Targets and the panels that frame them, as CSV or VOTable.',
  access: EVERYONE,
  isDear: true,
  query: Type.Object({ format: Format }),
  response: Type.String(),
});

export const exportGoals = operation({
  method: 'GET',
  path: '/exports/goals',
  media: ['text/csv', 'application/x-votable+xml'],
  summary: 'Goals with what is wanted, done and left, as CSV or VOTable.',
  access: EVERYONE,
  isDear: true,
  query: Type.Object({ format: Format, project: Type.Optional(Id) }),
  response: Type.String(),
});
