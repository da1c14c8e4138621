// Rigs: built, revised with dated numbers, fitted with filters; what a revision would touch is told before.
import type { BodyOf, Observatory, RigEffect, RigWish, addRig, copyRig, reviseRig } from '@meridiem/contract';
import type { MeasuredCost } from '@meridiem/core';
import { learnedCosts } from '@meridiem/core';
import { Op } from 'sequelize';
import type { Queries } from '../../database/connection.ts';
import { notFound, refused } from '../../errors.ts';
import { announce } from '../../plugins/live.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { rigEffects } from './effects.ts';
import type { RigRecord } from './repository.ts';
import { recipesOf, rigsOf, siteOf } from './repository.ts';
import { refuseOldBase } from './revision.ts';
import { settleGoals } from './running-goals.ts';
import { insertCameraMode } from './camera-modes-repository.ts';
import { insertRecipe } from './recipes-repository.ts';
import type { Slot } from './rigs-repository.ts';
import {
  changeSlots,
  fitFirstFilters,
  insertCamera,
  insertRevision,
  insertRig,
  measureAngle,
  storeSteps,
} from './rigs-repository.ts';
import type { ObservatoryUse } from './service.ts';

export const createRigs = ({ database, changes, tonight, changing }: ObservatoryUse) => ({
  setSteps: (viewer: Viewer, rigId: string, steps: RigRecord['steps']): Promise<Observatory> =>
    changing(viewer, async (queries) => {
      const { observatoryId } = viewer;
      const rig = await queries.models.Rig.findOne({ where: { id: rigId, observatoryId }, lock: true });
      if (!rig) throw notFound('rig');
      await storeSteps(queries, { observatoryId, rigId }, steps);
    }),

  setLearnsTimes: (viewer: Viewer, rigId: string, learnsTimes: boolean): Promise<Observatory> =>
    changing(viewer, async (queries) => {
      const { id } = await rigNamed(queries, viewer.observatoryId, rigId);
      await queries.models.Rig.update({ learnsTimes }, { where: { id } });
    }),

  /** A rig that learns has a revision by what its steps have taken, where that is worth one. */
  async learnTimes(observatoryId: string, rigId: string, measured: readonly MeasuredCost[]): Promise<void> {
    await database.transaction(async (queries) => {
      const rig = (await rigsOf(queries, observatoryId)).find(({ id }) => id === rigId);
      const costs = rig?.learnsTimes ? learnedCosts(rig.costs, measured) : null;
      if (!rig || !costs) return;
      await reviseRigAs(queries, observatoryId, rigId, { basedOnSeq: rig.revisionSeq, costs });
      for (const topic of ['observatory', 'plan', 'projects'] as const) await announce(queries, observatoryId, topic);
    });
  },

  addRig: (viewer: Viewer, body: BodyOf<typeof addRig>): Promise<Observatory> =>
    changing(viewer, (queries) => buildRig(queries, viewer.observatoryId, body)),

  async effects(viewer: Viewer, rigId: string, wish: RigWish): Promise<RigEffect[]> {
    const rig = await rigNamed(database, viewer.observatoryId, rigId);
    return rigEffects(database, rig, wish, tonight(await siteOf(database, viewer.observatoryId)));
  },

  copyRig: (viewer: Viewer, rigId: string, body: BodyOf<typeof copyRig>): Promise<Observatory> =>
    changing(viewer, async (queries) => {
      const rig = await rigNamed(queries, viewer.observatoryId, rigId);
      await copyOf(queries, viewer.observatoryId, rig, body);
    }),

  renameRig: (viewer: Viewer, rigId: string, name: string): Promise<Observatory> =>
    changing(viewer, async (queries) => {
      const { observatoryId } = viewer;
      const rig = await rigNamed(queries, observatoryId, rigId);
      if (rig.name !== name) await refuseSameName(queries, observatoryId, name);
      await queries.models.Rig.update({ name }, { where: { id: rigId, observatoryId } });
    }),

  reviseRig: (viewer: Viewer, rigId: string, body: BodyOf<typeof reviseRig>): Promise<Observatory> =>
    changing(viewer, async (queries) => {
      const { goalFates = [], ...wish } = body;
      const { name } = await rigNamed(queries, viewer.observatoryId, rigId);
      await reviseRigAs(queries, viewer.observatoryId, rigId, wish);
      await settleGoals(queries, { changes, viewer, rigId, rigName: name }, goalFates);
    }),
});

async function rigNamed(queries: Queries, observatoryId: string, rigId: string): Promise<RigRecord> {
  const rig = (await rigsOf(queries, observatoryId)).find((candidate) => candidate.id === rigId);
  if (!rig) throw notFound('rig');
  return rig;
}

async function buildRig(queries: Queries, observatoryId: string, body: BodyOf<typeof addRig>): Promise<void> {
  const { name, mode, ...rig } = body;
  await refuseSameName(queries, observatoryId, name);
  refuseLateFlip(body);
  refuseFullDrawer(body);
  const cameraId = await insertCamera(queries, observatoryId, body);
  const of = { observatoryId, rigId: await insertRig(queries, observatoryId, name) };
  await insertCameraMode(queries, of, mode);
  await insertRevision(queries, { ...of, seq: 1, cameraId }, rig);
  if (rig.skyAngleDeg !== null) await measureAngle(queries, of, rig.skyAngleDeg);
  await fitFirstFilters(queries, of, rig.filterPlaces);
}

async function refuseSameName({ models }: Queries, observatoryId: string, name: string): Promise<void> {
  const same = await models.Rig.findOne({ where: { observatoryId, name } });
  if (!same) return;
  throw refused(
    'name',
    same.retired
      ? `A retired rig is named "${name}"; bring it back or choose another name`
      : `There is a rig named "${name}" already`,
  );
}

/** Another rig with everything of one but its name, its camera's serial number, projects and exposures. */
async function copyOf(
  queries: Queries,
  observatoryId: string,
  rig: RigRecord,
  { name, cameraSerial }: BodyOf<typeof copyRig>,
): Promise<void> {
  await refuseSameName(queries, observatoryId, name);
  const cameraId = await insertCamera(queries, observatoryId, { ...rig, cameraSerial });
  const of = { observatoryId, rigId: await insertRig(queries, observatoryId, name) };
  await insertRevision(queries, { ...of, seq: 1, cameraId }, rig);
  const modeIds = new Map<string, string>();
  for (const mode of rig.cameraModes) modeIds.set(mode.id, await insertCameraMode(queries, of, mode));
  await changeSlots(queries, of, { gone: [], fresh: rig.slots });
  await storeSteps(queries, of, rig.steps);
  for (const recipe of await recipesOf(queries, observatoryId)) {
    const cameraModeId = modeIds.get(recipe.cameraModeId);
    if (recipe.rigId !== rig.id || recipe.ownerId !== null || !cameraModeId) continue;
    await insertRecipe(queries, { observatoryId, ownerId: null }, { ...recipe, rigId: of.rigId, cameraModeId });
  }
}

function refuseFullDrawer({ filterHolder, filterPlaces }: Pick<RigRecord, 'filterHolder' | 'filterPlaces'>): void {
  if (filterHolder === 'drawer' && filterPlaces !== 1)
    throw refused('filterPlaces', 'A drawer holds one filter at a time');
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
async function reviseRigAs(
  queries: Queries,
  observatoryId: string,
  rigId: string,
  { basedOnSeq, slots, ...fields }: Omit<BodyOf<typeof reviseRig>, 'goalFates'>,
): Promise<void> {
  const rig = await rigNamed(queries, observatoryId, rigId);
  refuseOldBase(rig.revisionSeq, basedOnSeq);
  const next = { ...rig, ...fields };
  refuseLateFlip(next);
  refuseFullDrawer(next);
  refuseTooManyFilters(next, slots ?? rig.slots);
  const cameraId = isCameraChanged(rig, next) ? await insertCamera(queries, observatoryId, next) : rig.cameraId;
  await insertRevision(queries, { observatoryId, rigId, seq: rig.revisionSeq + 1, cameraId }, next);
  if (fields.skyAngleDeg !== undefined && fields.skyAngleDeg !== rig.skyAngleDeg)
    await measureAngle(queries, { observatoryId, rigId }, fields.skyAngleDeg);
  if (slots) await fitFilters(queries, observatoryId, rig, slots);
}

const CAMERA_KEYS = [
  'cameraName',
  'cameraSerial',
  'sensor',
  'widthPx',
  'heightPx',
  'pixelUm',
  'darkCurrentEPerSec',
  'darkAtC',
  'darkDoublingC',
  'coolingBelowC',
] as const;
const isCameraChanged = (rig: RigRecord, next: RigRecord): boolean => CAMERA_KEYS.some((key) => rig[key] !== next[key]);

function refuseTooManyFilters({ filterPlaces }: RigRecord, slots: NonNullable<RigWish['slots']>): void {
  const beyond = slots.find(({ slot }) => slot > filterPlaces);
  if (beyond)
    throw refused(
      'slots',
      `There is a filter in place ${beyond.slot} and places for ${filterPlaces}; take it out first`,
    );
}

/** The wheel as it is from now on; what is fitted as before keeps its row. */
async function fitFilters(
  queries: Queries,
  observatoryId: string,
  rig: RigRecord,
  slots: NonNullable<RigWish['slots']>,
): Promise<void> {
  const twice = (values: readonly unknown[]): boolean => new Set(values).size < values.length;
  if (twice(slots.map(({ slot }) => slot))) throw refused('slots', 'A place holds one filter');
  if (twice(slots.map(({ filterId }) => filterId))) throw refused('slots', 'A filter is in one place only');
  const same = (a: Slot, b: Slot): boolean =>
    a.slot === b.slot && a.filterId === b.filterId && a.focusOffsetSteps === b.focusOffsetSteps;
  const gone = rig.slots.filter((slot) => !slots.some((other) => same(slot, other)));
  const fresh = slots.filter((slot) => !rig.slots.some((other) => same(slot, other)));
  const known = await queries.models.Filter.count({
    where: { observatoryId, id: { [Op.in]: fresh.map(({ filterId }) => filterId) } },
  });
  if (known < fresh.length) throw notFound('filter');
  await changeSlots(queries, { observatoryId, rigId: rig.id }, { gone, fresh });
}
