// Rigs as rows: each changed number begins a dated revision; camera, wheel, angle and own steps have rows of their own.
import type { Rig } from '@meridiem/contract';
import { Op } from 'sequelize';
import type { Queries } from '../../database/connection.ts';
import { inForce, momentOfChange, since, until } from '../../database/validity.ts';

type CameraNumbers = Pick<
  Rig,
  | 'cameraName'
  | 'cameraSerial'
  | 'sensor'
  | 'widthPx'
  | 'heightPx'
  | 'pixelUm'
  | 'darkCurrentEPerSec'
  | 'darkAtC'
  | 'darkDoublingC'
  | 'coolingBelowC'
>;
/** What a revision holds beside the camera's own numbers. */
export type RevisedRig = Omit<
  Rig,
  | 'id'
  | 'name'
  | 'revisionId'
  | 'revisionSeq'
  | 'since'
  | 'cameraModes'
  | 'slots'
  | 'steps'
  | 'skyAngleDeg'
  | 'devices'
  | 'learnsTimes'
>;

/** A camera with its numbers; another number or another serial number is another row, so that old exposures keep theirs. */
export async function insertCamera(
  { models }: Queries,
  observatoryId: string,
  { cameraName, cameraSerial, darkCurrentEPerSec, ...camera }: CameraNumbers,
): Promise<string> {
  const { sensor, widthPx, heightPx, pixelUm, darkAtC, darkDoublingC, coolingBelowC } = camera;
  const { id } = await models.Camera.create({
    observatoryId,
    name: cameraName,
    serial: cameraSerial,
    darkCurrentEPerS: darkCurrentEPerSec,
    ...{ sensor, widthPx, heightPx, pixelUm, darkAtC, darkDoublingC, coolingBelowC },
  });
  return id;
}

/** A rig at the end of the list. */
export async function insertRig({ models }: Queries, observatoryId: string, name: string): Promise<string> {
  const position = await models.Rig.count({ where: { observatoryId } });
  const { id } = await models.Rig.create({ observatoryId, name, position });
  return id;
}

/** A revision that holds from now on; the one before has held until now. */
export async function insertRevision(
  { models }: Queries,
  of: { observatoryId: string; rigId: string; seq: number; cameraId: string },
  rig: RevisedRig,
): Promise<void> {
  const at = momentOfChange();
  await models.RigRevision.update({ during: until(at) }, { where: { rigId: of.rigId, during: inForce(at) } });
  await models.RigRevision.create({
    ...of,
    during: since(at),
    apertureMm: rig.apertureMm,
    obstructionShare: rig.obstructionShare,
    focalLengthMm: rig.focalLengthMm,
    throughput: rig.throughput,
    mountKind: rig.mountKind,
    flipBeforeS: rig.flipBeforeSec,
    flipAfterS: rig.flipAfterSec,
    mountLimitAfterS: rig.mountLimitAfterSec,
    rotatorKind: rig.rotatorKind,
    angleToleranceDeg: rig.angleToleranceDeg,
    drawtubeMm: rig.drawtubeMm,
    correctedCircleMm: rig.correctedCircleMm,
    mirrors: rig.mirrors,
    filterHolder: rig.filterHolder,
    filterPlaces: rig.filterPlaces,
    stowAltitudeDeg: rig.stow?.altitudeDeg ?? null,
    stowAzimuthDeg: rig.stow?.azimuthDeg ?? null,
    roofClears: rig.roofClears,
    costs: rig.costs,
  });
}

export type Slot = Rig['slots'][number];

/** The wheel of a new rig: the observatory's filters in their order, as many as it has places. */
export async function fitFirstFilters(
  { models }: Queries,
  { observatoryId, rigId }: { observatoryId: string; rigId: string },
  places: number,
): Promise<void> {
  const filters = await models.Filter.findAll({
    where: { observatoryId, retired: null },
    order: ['position', 'letter'],
    limit: places,
  });
  const during = since(momentOfChange());
  await models.FilterSlot.bulkCreate(
    filters.map(({ id: filterId }, i) => ({ observatoryId, rigId, slot: i + 1, filterId, during })),
  );
}

/** The wheel from now on: slots that end, and those that begin. */
export async function changeSlots(
  { models }: Queries,
  of: { observatoryId: string; rigId: string },
  { gone, fresh }: { gone: readonly Slot[]; fresh: readonly Slot[] },
): Promise<void> {
  const at = momentOfChange();
  const slot = { [Op.in]: gone.map((one) => one.slot) };
  await models.FilterSlot.update({ during: until(at) }, { where: { rigId: of.rigId, during: inForce(at), slot } });
  await models.FilterSlot.bulkCreate(fresh.map((one) => ({ ...of, ...one, during: since(at) })));
}

/** The measured angle from now on; null where nobody knows it any more. */
export async function measureAngle(
  { models }: Queries,
  of: { observatoryId: string; rigId: string },
  skyAngleDeg: number | null,
): Promise<void> {
  const at = momentOfChange();
  await models.RigAngle.update({ during: until(at) }, { where: { rigId: of.rigId, during: inForce(at) } });
  if (skyAngleDeg !== null) await models.RigAngle.create({ ...of, skyAngleDeg, during: since(at) });
}

/** A rig's own steps: these and no others. */
export async function storeSteps(
  { models }: Queries,
  of: { observatoryId: string; rigId: string },
  steps: Rig['steps'],
): Promise<void> {
  await models.RigStep.destroy({ where: { rigId: of.rigId } });
  await models.RigStep.bulkCreate(steps.map(({ moment, words }, position) => ({ ...of, moment, position, words })));
}
