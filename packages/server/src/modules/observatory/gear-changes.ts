// When a rig's optics or camera were changed, and what exposures before and after were like.
import type { GearFigures, readGearChanges, ResponseOf } from '@meridiem/contract';
import type { Queries } from '../../database/connection.ts';
import { notFound } from '../../errors.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import type { GearRevision } from './gear-repository.ts';
import { figuresOfRevisions, gearRevisions } from './gear-repository.ts';
import type { ObservatoryUse } from './service.ts';

type GearChange = ResponseOf<typeof readGearChanges>['changes'][number];
type Part = Exclude<keyof GearRevision, 'id' | 'sinceUtcMs'>;

/** What is named where it differs, and how. */
const PARTS: readonly (readonly [Part, (value: GearRevision[Part]) => string])[] = [
  ['cameraName', (name) => `camera ${name}`],
  ['cameraSerial', (serial) => `camera no. ${serial}`],
  ['focalLengthMm', (mm) => `focal length ${mm} mm`],
  ['apertureMm', (mm) => `aperture ${mm} mm`],
  ['pixelUm', (um) => `pixels of ${um} µm`],
  ['mountKind', (kind) => `mount: ${String(kind).replace('_', ' ')}`],
  ['rotatorKind', (kind) => `rotator: ${kind}`],
];
const MOST_CHANGES = 12;

export const createGearChanges = ({ database }: ObservatoryUse) => ({
  async gearChanges({ observatoryId }: Viewer, rigId: string): Promise<{ changes: GearChange[] }> {
    const revisions = await gearRevisions(database, { observatoryId, rigId });
    if (revisions.length === 0) throw notFound('rig');
    const eras = erasOf(revisions);
    const shown = eras.slice(1).map((era, i) => ({ era, before: eras[i] }));
    const changes = shown.slice(-MOST_CHANGES).map(({ era, before }) => changeOf(database, before, era));
    return { changes: (await Promise.all(changes)).toReversed() };
  },
});

type Era = readonly GearRevision[];

const named = (revision: GearRevision): string => PARTS.map(([part, words]) => words(revision[part])).join();

/** Revisions one after the other that have the same optics and camera. */
function erasOf(revisions: readonly GearRevision[]): Era[] {
  const eras: GearRevision[][] = [];
  for (const revision of revisions) {
    const last = eras.at(-1);
    if (last && named(last[0]) === named(revision)) last.push(revision);
    else eras.push([revision]);
  }
  return eras;
}

async function changeOf(queries: Queries, before: Era, after: Era): Promise<GearChange> {
  const figures = (era: Era, newest: boolean): Promise<GearFigures> => figuresOfRevisions(queries, era.map(({ id }) => id), newest); // prettier-ignore
  const differing = PARTS.filter(([part]) => before[0][part] !== after[0][part]);
  const words = differing.map(([part, say]) => `${say(after[0][part])} instead of ${before[0][part]}`).join('; ');
  const [was, is] = await Promise.all([figures(before, true), figures(after, false)]);
  return { sinceUtcMs: after[0].sinceUtcMs, words, before: was, after: is };
}
