// Rigs as rows: each changed number begins a dated revision; camera, wheel, angle and own steps have rows of their own.
import type { BodyOf, Rig, addRig } from '@meridiem/contract';
import { Op } from 'sequelize';
import type { Queries } from '../../database/connection.ts';
import { inForce, momentOfChange, since, until } from '../../database/validity.ts';
import type { RigRecord } from './repository.ts';

type RigBody = BodyOf<typeof addRig>;
/** What a revision holds beside the camera's own numbers. */
export type RevisedRig = Omit<RigBody, 'name' | 'cameraSerial' | 'gain' | 'readNoiseE' | 'fullWellE'>;

export interface NewCamera extends Pick<RigBody, 'widthPx' | 'heightPx' | 'pixelUm' | 'darkCurrentEPerSec'> {
  readonly serial: string;
}

export async function insertCamera(
  { models }: Queries,
  observatoryId: string,
  { darkCurrentEPerSec, ...camera }: NewCamera,
): Promise<string> {
  const { id } = await models.Camera.create({ observatoryId, ...camera, darkCurrentEPerS: darkCurrentEPerSec });
  return id;
}

export interface NewCameraMode {
  readonly cameraId: string;
  readonly name: string;
  readonly gain: number;
  readonly readNoiseE: number;
  readonly fullWellE: number;
}

export const insertCameraMode = (
  { models }: Queries,
  observatoryId: string,
  mode: NewCameraMode,
): Promise<{ id: string }> => models.CameraMode.create({ observatoryId, ...mode });

/** The same camera with other numbers: another row, with the modes of the one before.
 * @returns its id */
export async function copyCamera(
  { models }: Queries,
  { cameraId, widthPx, heightPx, pixelUm, darkCurrentEPerSec }: RigRecord,
): Promise<string> {
  const { observatoryId, serial } = (await models.Camera.findByPk(cameraId))!;
  const numbers = { widthPx, heightPx, pixelUm, darkCurrentEPerS: darkCurrentEPerSec };
  const { id } = await models.Camera.create({ observatoryId, serial, ...numbers });
  const modes = await models.CameraMode.findAll({ where: { cameraId } });
  await models.CameraMode.bulkCreate(
    modes.map(({ name, gain, readNoiseE, fullWellE }) => ({
      observatoryId,
      cameraId: id,
      name,
      gain,
      readNoiseE,
      fullWellE,
    })),
  );
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
    costs: rig.costs,
  });
}

export type Slot = Rig['slots'][number];

/** The wheel of a new rig: every filter of the observatory, in their order. */
export async function fitAllFilters({ models }: Queries, observatoryId: string, rigId: string): Promise<void> {
  const filters = await models.Filter.findAll({ where: { observatoryId }, order: ['position', 'letter'] });
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
