// The site, its equipment and recipes: read as one, changed by dated revisions.
import type {
  BodyOf,
  Observatory,
  QueryOf,
  ResponseOf,
  RigEffect,
  RigWish,
  addRecipe,
  addRig,
  checkSunset,
  editFilter,
  editObservatory,
  reviseRecipe,
  reviseRig,
} from '@meridiem/contract';
import {
  darkIntervals,
  geometricAltitudeDeg,
  hoursOf,
  luminaryDirection,
  nightDateAt,
  observingNight,
  parseHorizonFile,
  pressureAtElevationHpa,
  sunPassage,
} from '@meridiem/core';
import { randomUUID } from 'node:crypto';
import type { Clock } from '../../clock.ts';
import type { Database, Queries } from '../../database/connection.ts';
import { insertRows } from '../../database/insert-rows.ts';
import { notFound, refused, ServiceError } from '../../errors.ts';
import { announce } from '../../plugins/live.ts';
import { requireTimeZone } from '../../time-zone.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import type { ChangeService } from '../changes/index.ts';
import { editableTable, editFields } from '../changes/index.ts';
import { rigEffects } from './effects.ts';
import type { RigRecord, SiteRecord } from './repository.ts';
import { filtersOf, horizonOf, observatoryLimitsOf, recipesOf, rigsOf, siteOf } from './repository.ts';

export type { RigRecord, SiteRecord };
export type ObservatoryService = ReturnType<typeof createObservatoryService>;

const SITE_FIELDS = editableTable('observatories', 'Observatory', [
  'name',
  'latitudeDeg',
  'longitudeDeg',
  'elevationM',
  'timeZone',
  'zenithMagV',
  'cutOffClockMin',
]);
const FILTER_FIELDS = editableTable('filters', 'Filter', [
  'centreNm',
  'widthNm',
  'extinctionMagPerAirmass',
  'zenithMag',
  'moonFactor',
]);

/** Temperature assumed when a horizon as seen is turned into geometric altitudes. */
const HORIZON_TEMPERATURE_C = 10;

export function createObservatoryService({
  database,
  clock,
  changes,
}: {
  database: Database;
  clock: Clock;
  changes: ChangeService;
}) {
  changes.registerFields(SITE_FIELDS, 'coordinator');
  changes.registerFields(FILTER_FIELDS, 'coordinator');
  const tonight = (site: SiteRecord): string => nightDateAt(clock.nowUtcMs(), site.timeZone);

  async function read(observatoryId: string): Promise<Observatory> {
    const site = await siteOf(database, observatoryId);
    const [horizon, limits, rigs, filters, recipes] = await Promise.all([
      horizonOf(database, observatoryId),
      observatoryLimitsOf(database, observatoryId),
      rigsOf(database, observatoryId),
      filtersOf(database, observatoryId),
      recipesOf(database, observatoryId),
    ]);
    return { ...site, horizon, limits, rigs, filters, recipes, nowUtcMs: clock.nowUtcMs(), tonight: tonight(site) };
  }

  async function changing(viewer: Viewer, work: (queries: Queries) => Promise<void>): Promise<Observatory> {
    await database.transaction(async (queries) => {
      await work(queries);
      for (const topic of ['observatory', 'plan', 'projects'] as const)
        await announce(queries, viewer.observatoryId, topic);
    });
    return read(viewer.observatoryId);
  }

  return {
    read,
    site: (observatoryId: string) => siteOf(database, observatoryId),
    tonight: async (observatoryId: string) => tonight(await siteOf(database, observatoryId)),

    sunset(place: QueryOf<typeof checkSunset>): ResponseOf<typeof checkSunset> {
      const nowUtcMs = clock.nowUtcMs();
      const night = observingNight(nightDateAt(nowUtcMs, place.timeZone), place.timeZone);
      const { duskUtcMs, dawnUtcMs } = sunPassage(place, night, -0.833);
      const noonSunAzimuthDeg = luminaryDirection(place, 'sun', night.startUtcMs).azimuthDeg;
      return {
        sunsetUtcMs: duskUtcMs,
        sunriseUtcMs: dawnUtcMs,
        noonSunAzimuthDeg,
        darkHours: hoursOf(darkIntervals(place, night)),
      };
    },

    edit: (viewer: Viewer, { version, ...fields }: BodyOf<typeof editObservatory>): Promise<Observatory> =>
      changing(viewer, async (queries) => {
        if (fields.timeZone) requireTimeZone(fields.timeZone);
        const edited = await editFields(queries, {
          table: SITE_FIELDS,
          id: viewer.observatoryId,
          observatoryId: viewer.observatoryId,
          baseVersion: version,
          fields,
        });
        if (edited)
          await changes.record(queries, viewer, {
            entity: 'observatories',
            entityId: viewer.observatoryId,
            projectId: null,
            words: 'the site',
            ...edited,
          });
      }),

    replaceHorizon: (viewer: Viewer, text: string, asSeen: boolean): Promise<Observatory> =>
      changing(viewer, async (queries) => {
        const site = await siteOf(queries, viewer.observatoryId);
        const air = { pressureHpa: pressureAtElevationHpa(site.elevationM), temperatureC: HORIZON_TEMPERATURE_C };
        const points = parseHorizonFile(text).map((point) =>
          asSeen ? { ...point, altitudeDeg: geometricAltitudeDeg(point.altitudeDeg, air) } : point,
        );
        await queries.rows(
          `UPDATE horizons SET during = tstzrange(lower(during), now()) WHERE observatory_id = $1 AND during @> now()`,
          [viewer.observatoryId],
        );
        await queries.rows(
          'INSERT INTO horizons (observatory_id, during, points) VALUES ($1, tstzrange(now(), NULL), $2)',
          [viewer.observatoryId, JSON.stringify(points)],
        );
      }),

    setSteps: (viewer: Viewer, rigId: string, steps: RigRecord['steps']): Promise<Observatory> =>
      changing(viewer, async (queries) => {
        const rig = await queries.one('SELECT 1 FROM rigs WHERE id = $1 AND observatory_id = $2 FOR UPDATE', [
          rigId,
          viewer.observatoryId,
        ]);
        if (!rig) throw notFound('rig');
        await queries.rows('DELETE FROM rig_steps WHERE rig_id = $1', [rigId]);
        await insertRows(
          queries,
          'rig_steps',
          steps.map(({ moment, words }, position) => ({
            id: randomUUID(),
            observatory_id: viewer.observatoryId,
            rig_id: rigId,
            moment,
            position,
            words,
          })),
        );
      }),

    addRig: (viewer: Viewer, body: BodyOf<typeof addRig>): Promise<Observatory> =>
      changing(viewer, (queries) => insertRig(queries, viewer, body)),

    async effects(viewer: Viewer, rigId: string, wish: RigWish): Promise<RigEffect[]> {
      const rig = await rigNamed(database, viewer.observatoryId, rigId);
      return rigEffects(database, rig, wish, tonight(await siteOf(database, viewer.observatoryId)));
    },

    reviseRig: (viewer: Viewer, rigId: string, body: BodyOf<typeof reviseRig>): Promise<Observatory> =>
      changing(viewer, async (queries) => reviseRigRows(queries, viewer, rigId, body)),

    editFilter: (
      viewer: Viewer,
      filterId: string,
      { version, ...fields }: BodyOf<typeof editFilter>,
    ): Promise<Observatory> =>
      changing(viewer, async (queries) => {
        const edited = await editFields(queries, {
          table: FILTER_FIELDS,
          id: filterId,
          observatoryId: viewer.observatoryId,
          baseVersion: version,
          fields,
        });
        if (edited)
          await changes.record(queries, viewer, {
            entity: 'filters',
            entityId: filterId,
            projectId: null,
            words: 'a filter',
            ...edited,
          });
      }),

    addRecipe: (viewer: Viewer, body: BodyOf<typeof addRecipe>): Promise<Observatory> =>
      changing(viewer, async (queries) => {
        const taken = await queries.one('SELECT 1 FROM recipes WHERE rig_id = $1 AND name = $2', [
          body.rigId,
          body.name,
        ]);
        if (taken) throw refused('name', `This rig has a recipe named "${body.name}" already`);
        const fitted = await queries.one(
          'SELECT 1 FROM filter_slots WHERE rig_id = $1 AND filter_id = $2 AND during @> now()',
          [body.rigId, body.filterId],
        );
        if (!fitted) throw refused('filterId', 'This filter is not fitted to the rig');
        const recipe = await queries.one<{ id: string }>(
          'INSERT INTO recipes (observatory_id, rig_id, filter_id, name) VALUES ($1, $2, $3, $4) RETURNING id',
          [viewer.observatoryId, body.rigId, body.filterId, body.name],
        );
        await insertRecipeRevision(queries, viewer.observatoryId, { recipeId: recipe!.id, seq: 1, ...body });
      }),

    reviseRecipe: (
      viewer: Viewer,
      recipeId: string,
      { basedOnSeq, ...fields }: BodyOf<typeof reviseRecipe>,
    ): Promise<Observatory> =>
      changing(viewer, async (queries) => {
        const recipe = (await recipesOf(queries, viewer.observatoryId)).find((candidate) => candidate.id === recipeId);
        if (!recipe) throw notFound('recipe');
        refuseOldBase(recipe.revisionSeq, basedOnSeq);
        await insertRecipeRevision(queries, viewer.observatoryId, {
          ...recipe,
          ...fields,
          recipeId,
          seq: recipe.revisionSeq + 1,
        });
      }),
  };
}

function refuseOldBase(currentSeq: number, basedOnSeq: number): void {
  if (currentSeq === basedOnSeq) return;
  throw new ServiceError(
    'CONFLICT',
    `This was changed meanwhile (revision ${currentSeq}); look at it and change it again`,
    { details: { currentSeq } },
  );
}

async function rigNamed(queries: Queries, observatoryId: string, rigId: string): Promise<RigRecord> {
  const rig = (await rigsOf(queries, observatoryId)).find((candidate) => candidate.id === rigId);
  if (!rig) throw notFound('rig');
  return rig;
}

async function insertRig(queries: Queries, { observatoryId }: Viewer, body: BodyOf<typeof addRig>): Promise<void> {
  const taken = await queries.one('SELECT 1 FROM rigs WHERE observatory_id = $1 AND name = $2', [
    observatoryId,
    body.name,
  ]);
  if (taken) throw refused('name', `There is a rig named "${body.name}" already`);
  refuseLateFlip(body);
  const camera = await queries.one<{ id: string }>(
    'INSERT INTO cameras (observatory_id, serial, width_px, height_px, pixel_um, dark_current_e_per_s) VALUES ($1, $2, $3, $4, $5, $6) RETURNING id',
    [observatoryId, body.cameraSerial, body.widthPx, body.heightPx, body.pixelUm, body.darkCurrentEPerSec],
  );
  await queries.rows(
    `INSERT INTO camera_modes (observatory_id, camera_id, name, gain, read_noise_e, full_well_e) VALUES ($1, $2, 'Standard', $3, $4, $5)`,
    [observatoryId, camera!.id, body.gain, body.readNoiseE, body.fullWellE],
  );
  const rig = await queries.one<{ id: string }>(
    'INSERT INTO rigs (observatory_id, name, position) SELECT $1, $2, count(*) FROM rigs WHERE observatory_id = $1 RETURNING id',
    [observatoryId, body.name],
  );
  await insertRevision(queries, { observatoryId, rigId: rig!.id, seq: 1, cameraId: camera!.id, since: 'now()' }, body);
  if (body.skyAngleDeg !== null) await measureAngle(queries, observatoryId, rig!.id, body.skyAngleDeg);
  await queries.rows(
    `INSERT INTO filter_slots (observatory_id, rig_id, slot, filter_id, focus_offset_steps, during)
     SELECT observatory_id, $2, row_number() OVER (ORDER BY position, letter), id, NULL, tstzrange(now(), NULL) FROM filters WHERE observatory_id = $1`,
    [observatoryId, rig!.id],
  );
}

function refuseLateFlip({
  flipAfterSec,
  mountLimitAfterSec,
}: {
  flipAfterSec: number;
  mountLimitAfterSec: number;
}): void {
  if (flipAfterSec <= mountLimitAfterSec) return;
  throw refused(
    'flipAfterSec',
    `The flip at ${flipAfterSec / 60} min past the meridian is later than the mount's own limit of ${mountLimitAfterSec / 60} min`,
  );
}

/** A new dated revision; camera numbers and the measured angle live in rows of their own. */
async function reviseRigRows(
  queries: Queries,
  viewer: Viewer,
  rigId: string,
  { basedOnSeq, slots, ...fields }: BodyOf<typeof reviseRig>,
): Promise<void> {
  const rig = await rigNamed(queries, viewer.observatoryId, rigId);
  refuseOldBase(rig.revisionSeq, basedOnSeq);
  const next = { ...rig, ...fields };
  refuseLateFlip(next);
  const cameraId = await cameraFor(queries, viewer.observatoryId, rig, next);
  await queries.rows('UPDATE rig_revisions SET during = tstzrange(lower(during), clock_timestamp()) WHERE id = $1', [
    rig.revisionId,
  ]);
  await insertRevision(
    queries,
    { observatoryId: viewer.observatoryId, rigId, seq: rig.revisionSeq + 1, cameraId, since: 'clock_timestamp()' },
    next,
  );
  if (fields.skyAngleDeg !== undefined && fields.skyAngleDeg !== rig.skyAngleDeg)
    await measureAngle(queries, viewer.observatoryId, rigId, fields.skyAngleDeg);
  if (slots) await fitFilters(queries, viewer.observatoryId, rig, slots);
}

/** The wheel as it is from now on; what is fitted as before keeps its row. */
async function fitFilters(
  queries: Queries,
  observatoryId: string,
  rig: RigRecord,
  slots: NonNullable<RigWish['slots']>,
): Promise<void> {
  const twice = (values: readonly unknown[]): boolean => new Set(values).size < values.length;
  if (twice(slots.map(({ slot }) => slot))) throw refused('slots', 'A slot holds one filter');
  if (twice(slots.map(({ filterId }) => filterId))) throw refused('slots', 'A filter is in one slot only');
  const same = (a: (typeof slots)[number], b: (typeof slots)[number]): boolean =>
    a.slot === b.slot && a.filterId === b.filterId && a.focusOffsetSteps === b.focusOffsetSteps;
  const gone = rig.slots.filter((slot) => !slots.some((other) => same(slot, other)));
  await queries.rows(
    'UPDATE filter_slots SET during = tstzrange(lower(during), clock_timestamp()) WHERE rig_id = $1 AND during @> now() AND slot = ANY ($2::int[])',
    [rig.id, gone.map(({ slot }) => slot)],
  );
  for (const { slot, filterId, focusOffsetSteps } of slots.filter(
    (slot) => !rig.slots.some((other) => same(slot, other)),
  )) {
    const known = await queries.one('SELECT 1 FROM filters WHERE id = $1 AND observatory_id = $2', [
      filterId,
      observatoryId,
    ]);
    if (!known) throw notFound('filter');
    await queries.rows(
      'INSERT INTO filter_slots (observatory_id, rig_id, slot, filter_id, focus_offset_steps, during) VALUES ($1, $2, $3, $4, $5, tstzrange(clock_timestamp(), NULL))',
      [observatoryId, rig.id, slot, filterId, focusOffsetSteps],
    );
  }
}

interface NewRevision {
  readonly observatoryId: string;
  readonly rigId: string;
  readonly seq: number;
  readonly cameraId: string;
  readonly since: 'now()' | 'clock_timestamp()';
}

const insertRevision = (
  queries: Queries,
  { observatoryId, rigId, seq, cameraId, since }: NewRevision,
  rig: Omit<BodyOf<typeof addRig>, 'name' | 'cameraSerial' | 'gain' | 'readNoiseE' | 'fullWellE'>,
) =>
  queries.rows(
    `INSERT INTO rig_revisions (observatory_id, rig_id, seq, during, camera_id, aperture_mm, obstruction_share, focal_length_mm, throughput, mount_kind,
       flip_before_s, flip_after_s, mount_limit_after_s, rotator_kind, angle_tolerance_deg, drawtube_mm, corrected_circle_mm, mirrors, costs)
     VALUES ($1, $2, $3, tstzrange(${since}, NULL), $4, $5, $6, $7, $8, $9, $10, $11, $12, $13, $14, $15, $16, $17, $18)`,
    [
      observatoryId,
      rigId,
      seq,
      cameraId,
      rig.apertureMm,
      rig.obstructionShare,
      rig.focalLengthMm,
      rig.throughput,
      rig.mountKind,
      rig.flipBeforeSec,
      rig.flipAfterSec,
      rig.mountLimitAfterSec,
      rig.rotatorKind,
      rig.angleToleranceDeg,
      rig.drawtubeMm,
      rig.correctedCircleMm,
      rig.mirrors,
      JSON.stringify(rig.costs),
    ],
  );

async function cameraFor(queries: Queries, observatoryId: string, rig: RigRecord, next: RigRecord): Promise<string> {
  const numbers = (of: RigRecord): unknown[] => [of.widthPx, of.heightPx, of.pixelUm, of.darkCurrentEPerSec];
  if (numbers(rig).every((value, i) => value === numbers(next)[i])) return rig.cameraId;
  const camera = await queries.one<{ id: string }>(
    `INSERT INTO cameras (observatory_id, serial, width_px, height_px, pixel_um, dark_current_e_per_s) SELECT $1, serial, $2, $3, $4, $5 FROM cameras WHERE id = $6 RETURNING id`,
    [observatoryId, ...numbers(next), rig.cameraId],
  );
  await queries.rows(
    'INSERT INTO camera_modes (observatory_id, camera_id, name, gain, read_noise_e, full_well_e) SELECT observatory_id, $2, name, gain, read_noise_e, full_well_e FROM camera_modes WHERE camera_id = $1',
    [rig.cameraId, camera!.id],
  );
  return camera!.id;
}

async function measureAngle(
  queries: Queries,
  observatoryId: string,
  rigId: string,
  skyAngleDeg: number | null,
): Promise<void> {
  await queries.rows(
    'UPDATE rig_angles SET during = tstzrange(lower(during), clock_timestamp()) WHERE rig_id = $1 AND during @> now()',
    [rigId],
  );
  if (skyAngleDeg === null) return;
  await queries.rows(
    'INSERT INTO rig_angles (observatory_id, rig_id, during, sky_angle_deg) VALUES ($1, $2, tstzrange(clock_timestamp(), NULL), $3)',
    [observatoryId, rigId, skyAngleDeg],
  );
}

interface NewRecipeRevision {
  readonly recipeId: string;
  readonly seq: number;
  readonly cameraModeId: string;
  readonly exposureSec: number;
  readonly offset: number;
  readonly binning: number;
  readonly sensorC: number;
  readonly pauseSec: number;
  readonly ditherEvery: number;
}

const insertRecipeRevision = (queries: Queries, observatoryId: string, revision: NewRecipeRevision) =>
  queries.rows(
    `INSERT INTO recipe_revisions (observatory_id, recipe_id, seq, camera_mode_id, exposure_s, "offset", binning, sensor_c, pause_s, dither_every)
     VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10)`,
    [
      observatoryId,
      revision.recipeId,
      revision.seq,
      revision.cameraModeId,
      revision.exposureSec,
      revision.offset,
      revision.binning,
      revision.sensorC,
      revision.pauseSec,
      revision.ditherEvery,
    ],
  );
