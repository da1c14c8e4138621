// How deep a project has got, place by place: limiting surface brightness by filter, from what its files' own pixels say.
import type { Static } from 'typebox';
import { Type } from 'typebox';
import { FilterClass, Id, IdParams, Nullable, Ok, oneOf } from './common.ts';
import { EVERYONE, MEMBERS, operation } from './operation.ts';

/** Magnitudes per square arcsecond. */
const Mag = Type.Number();

/** A depth that is wanted over a share of the field. */
export const WantedDepth = Type.Object({
  mag: Type.Number({ minimum: 15, maximum: 35 }),
  share: Type.Number({ exclusiveMinimum: 0, maximum: 1 }),
});
export type WantedDepth = Static<typeof WantedDepth>;

export const FilterDepth = Type.Object({
  filterId: Id,
  letter: Type.String(),
  filterClass: FilterClass,
  /** Not rejected. */
  exposures: Type.Integer(),
  /** Of these, those whose file is here and says where it points, how dark its sky is and how much light arrived. */
  measured: Type.Integer(),
  /** Of those that are measured. */
  exposureSec: Type.Number(),
  /** What these are worth, in seconds as the better of them were. */
  worthSec: Type.Number(),
  /** By cell, row by row from the north-east; null where nothing was gathered. */
  cells: Type.Array(Nullable(Mag)),
  /** What the project wants; null where it wants none, and of the archive. */
  wanted: Nullable(WantedDepth),
  summary: Nullable(Type.Object({ deepestMag: Mag, medianMag: Mag, shallowTenthMag: Mag })),
});
export type FilterDepth = Static<typeof FilterDepth>;

export const ProjectDepth = Type.Object({
  projectName: Type.String(),
  mayEdit: Type.Boolean(),
  /** One for all filters; null while nothing is measured. */
  grid: Nullable(
    Type.Object({
      centre: Type.Object({ raDeg: Type.Number(), decDeg: Type.Number() }),
      stepDeg: Type.Number(),
      across: Type.Integer(),
      down: Type.Integer(),
    }),
  ),
  filters: Type.Array(FilterDepth),
  /** Whose exposures of the archive these are, most first; none are named where only the project's own were asked for. */
  sources: Type.Array(
    Type.Object({ projectId: Id, projectName: Type.String(), ownerName: Type.String(), exposures: Type.Integer() }),
  ),
});
export type ProjectDepth = Static<typeof ProjectDepth>;

export const DEPTH_OF = ['project', 'archive'] as const;

export const readDepth = operation({
  method: 'GET',
  path: '/projects/:id/depth',
  summary: 'How faint a glow a project’s exposures show, by filter and place: 3 σ in a square of 10″.',
  access: EVERYONE,
  isDear: true,
  params: IdParams,
  /** The project's own exposures, or all that the archive holds over the field it frames; others' private work is left out. */
  query: Type.Object({ of: Type.Optional(oneOf(DEPTH_OF)) }),
  response: ProjectDepth,
});

export const setDepthWish = operation({
  method: 'PUT',
  path: '/projects/:id/depth/:filterId',
  summary: 'Want a depth through a filter over a share of the field, or want none any more.',
  access: MEMBERS,
  params: Type.Object({ id: Id, filterId: Id }),
  body: Type.Object({ wanted: Nullable(WantedDepth) }),
  response: Ok,
});
