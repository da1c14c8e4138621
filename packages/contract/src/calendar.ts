import { Type } from 'typebox';
import { NightDateText, Nullable, Ok, UtcMs } from './common.ts';
import { EVERYONE, operation } from './operation.ts';
import { Token } from './people.ts';

export const exportNightCalendar = operation({
  method: 'GET',
  path: '/exports/nights/:nightDate/calendar',
  media: ['text/calendar'],
  summary: 'The published plans of a night as an iCalendar file.',
  access: EVERYONE,
  params: Type.Object({ nightDate: NightDateText }),
  response: Type.String(),
});

export const readCalendarFeed = operation({
  method: 'GET',
  path: '/account/calendar',
  summary: 'Whether one has a private calendar address, and since when; the address itself is shown once only.',
  access: EVERYONE,
  response: Type.Object({ madeUtcMs: Nullable(UtcMs) }),
});

export const makeCalendarFeed = operation({
  method: 'POST',
  path: '/account/calendar',
  summary: 'A new private calendar address; the one before stops working.',
  access: EVERYONE,
  response: Type.Object({ path: Type.String() }),
});

export const revokeCalendarFeed = operation({
  method: 'DELETE',
  path: '/account/calendar',
  summary: 'End one’s private calendar address.',
  access: EVERYONE,
  response: Ok,
});

export const followCalendarFeed = operation({
  method: 'GET',
  path: '/calendar/:token',
  media: ['text/calendar'],
  summary: 'Published plans from a week ago on, as the member to whom the address belongs may see them.',
  access: 'public',
  params: Token,
  response: Type.String(),
});
