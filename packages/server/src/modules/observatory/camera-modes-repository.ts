// Camera modes as rows: what a mode is called, and its numbers as dated revisions.
import type { CameraMode } from '@meridiem/contract';
import type { Queries } from '../../database/connection.ts';
import { inForce, momentOfChange, since, until } from '../../database/validity.ts';

export type ModeNumbers = Omit<CameraMode, 'id' | 'name' | 'revisionSeq' | 'since'>;
export type NewCameraMode = ModeNumbers & { readonly name: string };

export async function insertCameraMode(
  queries: Queries,
  of: { observatoryId: string; rigId: string },
  { name, ...numbers }: NewCameraMode,
): Promise<string> {
  const { id } = await queries.models.CameraMode.create({ ...of, name });
  await insertModeRevision(queries, { observatoryId: of.observatoryId, cameraModeId: id, seq: 1 }, numbers);
  return id;
}

/** Numbers that hold from now on; those before have held until now. */
export async function insertModeRevision(
  { models }: Queries,
  of: { observatoryId: string; cameraModeId: string; seq: number },
  { gain, gainKind, readNoiseE, fullWellE, ePerAdu, typicalOffset }: ModeNumbers,
): Promise<void> {
  const at = momentOfChange();
  await models.CameraModeRevision.update(
    { during: until(at) },
    { where: { cameraModeId: of.cameraModeId, during: inForce(at) } },
  );
  const numbers = { gain, gainKind, readNoiseE, fullWellE, ePerAdu, typicalOffset };
  await models.CameraModeRevision.create({ ...of, ...numbers, during: since(at) });
}
