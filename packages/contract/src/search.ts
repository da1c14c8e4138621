import type { Static } from 'typebox';
import { Type } from 'typebox';
import { oneOf } from './common.ts';
import { EVERYONE, operation } from './operation.ts';

export const SearchHit = Type.Object({
  kind: oneOf(['project', 'panel', 'target', 'member', 'recipe', 'night'] as const),
  words: Type.String(),
  remark: Type.String(),
  /** Where it is shown. */
  path: Type.String(),
});
export type SearchHit = Static<typeof SearchHit>;

export const search = operation({
  method: 'GET',
  path: '/search',
  summary: 'Projects, panels, targets, members, recipes and nights whose name holds what was typed.',
  access: EVERYONE,
  query: Type.Object({ text: Type.String({ maxLength: 80 }) }),
  response: Type.Object({ hits: Type.Array(SearchHit) }),
});
