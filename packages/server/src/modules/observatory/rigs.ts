// Rigs: built, revised with dated numbers, fitted with filters; what a revision would touch is told before.
import type { BodyOf, Observatory, RigEffect, RigWish, addRig, reviseRig } from '@meridiem/contract';
import { Op } from 'sequelize';
import type { Queries } from '../../database/connection.ts';
import { notFound, refused } from '../../errors.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { rigEffects } from './effects.ts';
import type { RigRecord } from './repository.ts';
import { rigsOf, siteOf } from './repository.ts';
import { refuseOldBase } from './revision.ts';
import type { Slot } from './rigs-repository.ts';
import {
  changeSlots,
  copyCamera,
  fitAllFilters,
  insertCamera,
  insertCameraMode,
  insertRevision,
  insertRig,
  measureAngle,
  storeSteps,
} from './rigs-repository.ts';
import type { ObservatoryUse } from './service.ts';

/** The one mode of a camera that nobody has named modes of. */
const FIRST_MODE = 'Standard';

export const createRigs = ({ database, tonight, changing }: ObservatoryUse) => ({
  setSteps: (viewer: Viewer, rigId: string, steps: RigRecord['steps']): Promise<Observatory> =>
    changing(viewer, async (queries) => {
      const { observatoryId } = viewer;
      const rig = await queries.models.Rig.findOne({ where: { id: rigId, observatoryId }, lock: true });
      if (!rig) throw notFound('rig');
      await storeSteps(queries, { observatoryId, rigId }, steps);
    }),

  addRig: (viewer: Viewer, body: BodyOf<typeof addRig>): Promise<Observatory> =>
    changing(viewer, (queries) => buildRig(queries, viewer.observatoryId, body)),

  async effects(viewer: Viewer, rigId: string, wish: RigWish): Promise<RigEffect[]> {
    const rig = await rigNamed(database, viewer.observatoryId, rigId);
    return rigEffects(database, rig, wish, tonight(await siteOf(database, viewer.observatoryId)));
  },

  reviseRig: (viewer: Viewer, rigId: string, body: BodyOf<typeof reviseRig>): Promise<Observatory> =>
    changing(viewer, async (queries) => reviseRigAs(queries, viewer.observatoryId, rigId, body)),
});

async function rigNamed(queries: Queries, observatoryId: string, rigId: string): Promise<RigRecord> {
  const rig = (await rigsOf(queries, observatoryId)).find((candidate) => candidate.id === rigId);
  if (!rig) throw notFound('rig');
  return rig;
}

async function buildRig(queries: Queries, observatoryId: string, body: BodyOf<typeof addRig>): Promise<void> {
  const { name, cameraSerial: serial, gain, readNoiseE, fullWellE, skyAngleDeg } = body;
  if ((await queries.models.Rig.count({ where: { observatoryId, name } })) > 0)
    throw refused('name', `There is a rig named "${name}" already`);
  refuseLateFlip(body);
  const { widthPx, heightPx, pixelUm, darkCurrentEPerSec } = body;
  const camera = { serial, widthPx, heightPx, pixelUm, darkCurrentEPerSec };
  const cameraId = await insertCamera(queries, observatoryId, camera);
  await insertCameraMode(queries, observatoryId, { cameraId, name: FIRST_MODE, gain, readNoiseE, fullWellE });
  const rigId = await insertRig(queries, observatoryId, name);
  await insertRevision(queries, { observatoryId, rigId, seq: 1, cameraId }, body);
  if (skyAngleDeg !== null) await measureAngle(queries, { observatoryId, rigId }, skyAngleDeg);
  await fitAllFilters(queries, observatoryId, rigId);
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
  { basedOnSeq, slots, ...fields }: BodyOf<typeof reviseRig>,
): Promise<void> {
  const rig = await rigNamed(queries, observatoryId, rigId);
  refuseOldBase(rig.revisionSeq, basedOnSeq);
  const next = { ...rig, ...fields };
  refuseLateFlip(next);
  const cameraId = isCameraChanged(rig, next) ? await copyCamera(queries, next) : rig.cameraId;
  await insertRevision(queries, { observatoryId, rigId, seq: rig.revisionSeq + 1, cameraId }, next);
  if (fields.skyAngleDeg !== undefined && fields.skyAngleDeg !== rig.skyAngleDeg)
    await measureAngle(queries, { observatoryId, rigId }, fields.skyAngleDeg);
  if (slots) await fitFilters(queries, observatoryId, rig, slots);
}

const isCameraChanged = (rig: RigRecord, next: RigRecord): boolean =>
  (['widthPx', 'heightPx', 'pixelUm', 'darkCurrentEPerSec'] as const).some((key) => rig[key] !== next[key]);

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
