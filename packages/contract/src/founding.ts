import { Type } from 'typebox';
import { Nullable, UtcMs, Words } from './common.ts';
import { SiteFields } from './observatory.ts';
import { operation } from './operation.ts';
import { Email, Password, Token } from './people.ts';
import { Account } from './session.ts';

export const readFounding = operation({
  method: 'GET',
  path: '/found/:token',
  summary:
    'Whether a founding link is still good; with a place, tonight’s sunset there to confirm hemisphere and zone.',
  access: 'public',
  params: Token,
  query: Type.Object({
    latitudeDeg: Type.Optional(SiteFields.latitudeDeg),
    longitudeDeg: Type.Optional(SiteFields.longitudeDeg),
    timeZone: Type.Optional(SiteFields.timeZone),
  }),
  response: Type.Object({
    sunset: Nullable(
      Type.Object({ sunsetUtcMs: Nullable(UtcMs), sunriseUtcMs: Nullable(UtcMs), noonSunAzimuthDeg: Type.Number() }),
    ),
  }),
});

export const foundObservatory = operation({
  method: 'POST',
  path: '/found/:token',
  summary: 'Found the observatory and become its first coordinator; the link is spent.',
  access: 'public',
  params: Token,
  body: Type.Object({
    observatory: Type.Object(SiteFields),
    name: Words(100),
    email: Email,
    password: Password,
  }),
  response: Account,
});
