import { Type } from 'typebox';
import { Nullable, Ok } from './common.ts';
import { COORDINATORS, EVERYONE, operation } from './operation.ts';

/** Pixels along a tile's side. */
export const SURVEY_TILE_PX = 384;
export const THUMBNAIL_PX = 96;

/** The source's key, so that a browser does not show pictures it kept from another one. */
const FromSource = Type.Optional(Type.String({ maxLength: 16 }));

const Whole = Type.Integer({ minimum: 0, maximum: 100_000 });

export const surveyTile = operation({
  method: 'GET',
  path: '/survey/tiles/:level/:strip/:piece',
  media: ['image/png', 'image/jpeg'],
  summary: 'A square picture of the sky, north up and east left, on the tangent plane of its centre (PNG or JPEG).',
  access: EVERYONE,
  params: Type.Object({ level: Whole, strip: Whole, piece: Whole }),
  query: Type.Object({ from: FromSource }),
  response: Type.Unsafe<Uint8Array>(Type.Any()),
});

export const surveyThumbnail = operation({
  method: 'GET',
  path: '/survey/thumbnail',
  media: ['image/png', 'image/jpeg'],
  summary: 'A small picture of one object.',
  access: EVERYONE,
  query: Type.Object({
    raDeg: Type.Number({ minimum: 0, exclusiveMaximum: 360 }),
    decDeg: Type.Number({ minimum: -90, maximum: 90 }),
    widthDeg: Type.Number({ exclusiveMinimum: 0, maximum: 30 }),
    from: FromSource,
  }),
  response: Type.Unsafe<Uint8Array>(Type.Any()),
});

export const readSurveySource = operation({
  method: 'GET',
  path: '/survey',
  summary: 'Where pictures of the sky come from.',
  access: EVERYONE,
  response: Type.Object({
    /** null: rendered here, and marked so. */
    template: Nullable(Type.String()),
    /** Hosts that this installation lets another source be on; set where the server is started. */
    hosts: Type.Array(Type.String()),
    /** Changes with the source; part of each picture's address. */
    key: Type.String(),
    /** Pictures kept on this server for later, of all sources. */
    stored: Type.Object({ count: Type.Integer(), bytes: Type.Integer() }),
  }),
});

export const clearSurveyPictures = operation({
  method: 'DELETE',
  path: '/survey/pictures',
  summary: 'Remove the pictures of the sky kept on this server; they are fetched again when they are looked at.',
  access: COORDINATORS,
  response: Ok,
});

export const editSurveySource = operation({
  method: 'PUT',
  path: '/survey',
  summary:
    'Take pictures from another source: an address with {ra} {dec} {width} in degrees and {px}, on an allowed host; null renders them here.',
  access: COORDINATORS,
  body: Type.Object({ template: Nullable(Type.String({ maxLength: 500 })) }),
  response: Ok,
});
