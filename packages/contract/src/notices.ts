import type { Static } from 'typebox';
import { Type } from 'typebox';
import { Ok, oneOf, UtcMs } from './common.ts';
import { EVERYONE, operation } from './operation.ts';

/** Something that happened to what is one's own. */
export const Notice = Type.Object({
  id: Type.String(),
  at: UtcMs,
  words: Type.String(),
  link: Type.String(),
  kind: oneOf(['news', 'night', 'danger'] as const),
  seen: Type.Boolean(),
});
export type Notice = Static<typeof Notice>;

export const listNotices = operation({
  method: 'GET',
  path: '/notices',
  summary: 'One’s notifications, newest first.',
  access: EVERYONE,
  response: Type.Object({ notices: Type.Array(Notice), unseen: Type.Integer() }),
});

export const seeNotices = operation({
  method: 'POST',
  path: '/notices/seen',
  summary: 'Mark all notifications as seen.',
  access: EVERYONE,
  response: Ok,
});
