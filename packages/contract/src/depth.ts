// How deep a project has got, place by place: limiting surface brightness by filter, from what its files' own pixels say.
import type { Static } from 'typebox';
import { Type } from 'typebox';
import { FilterClass, Id, IdParams, Nullable } from './common.ts';
import { EVERYONE, operation } from './operation.ts';

/** Magnitudes per square arcsecond. */
const Mag = Type.Number();

export const FilterDepth = Type.Object({
  filterId: Id,
  letter: Type.String(),
  filterClass: FilterClass,
  /** Not rejected. */
  exposures: Type.Integer(),
  /** Of these, those whose file is here and says where it points, how dark its sky is and how much light arrived. */
  measured: Type.Integer(),
  /** By cell, row by row from the north-east; null where nothing was gathered. */
  cells: Type.Array(Nullable(Mag)),
  summary: Nullable(Type.Object({ deepestMag: Mag, medianMag: Mag, shallowTenthMag: Mag })),
});
export type FilterDepth = Static<typeof FilterDepth>;

export const ProjectDepth = Type.Object({
  projectName: Type.String(),
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
});
export type ProjectDepth = Static<typeof ProjectDepth>;

export const readDepth = operation({
  method: 'GET',
  path: '/projects/:id/depth',
  summary: 'How faint a glow a project’s exposures show, by filter and place: 3 σ in a square of 10″.',
  access: EVERYONE,
  isDear: true,
  params: IdParams,
  response: ProjectDepth,
});
