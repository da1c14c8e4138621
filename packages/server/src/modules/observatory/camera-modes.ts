// Modes of a rig's camera: added, corrected by dated revisions, retired.
import type { BodyOf, CameraMode, Observatory, addCameraMode, reviseCameraMode } from '@meridiem/contract';
import { momentOfChange } from '../../database/validity.ts';
import type { Queries } from '../../database/connection.ts';
import { notFound, refused, ServiceError } from '../../errors.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { insertCameraMode, insertModeRevision } from './camera-modes-repository.ts';
import type { RigRecord } from './repository.ts';
import { recipesOf, rigsOf } from './repository.ts';
import { refuseOldBase } from './revision.ts';
import type { ObservatoryUse } from './service.ts';

export const createCameraModes = ({ changing }: ObservatoryUse) => ({
  /** One more mode of a rig's camera. */
  addCameraMode: (viewer: Viewer, rigId: string, mode: BodyOf<typeof addCameraMode>): Promise<Observatory> =>
    changing(viewer, async (queries) => {
      const { observatoryId } = viewer;
      const rig = (await rigsOf(queries, observatoryId)).find(({ id }) => id === rigId);
      if (!rig) throw notFound('rig');
      await refuseSameName(queries, rigId, mode.name);
      await insertCameraMode(queries, { observatoryId, rigId }, mode);
    }),

  reviseCameraMode: (
    viewer: Viewer,
    modeId: string,
    { basedOnSeq, name, ...numbers }: BodyOf<typeof reviseCameraMode>,
  ): Promise<Observatory> =>
    changing(viewer, async (queries) => {
      const { observatoryId } = viewer;
      const { mode, rig } = await modeNamed(queries, observatoryId, modeId);
      refuseOldBase(mode.revisionSeq, basedOnSeq);
      if (name !== undefined && name !== mode.name) {
        await refuseSameName(queries, rig.id, name);
        await queries.models.CameraMode.update({ name }, { where: { id: modeId, observatoryId } });
      }
      if (Object.keys(numbers).length === 0) return;
      const of = { observatoryId, cameraModeId: modeId, seq: mode.revisionSeq + 1 };
      await insertModeRevision(queries, of, { ...mode, ...numbers });
    }),

  retireCameraMode: (viewer: Viewer, modeId: string): Promise<Observatory> =>
    changing(viewer, async (queries) => {
      const { observatoryId } = viewer;
      const { mode, rig } = await modeNamed(queries, observatoryId, modeId);
      const using = (await recipesOf(queries, observatoryId)).filter(({ cameraModeId }) => cameraModeId === modeId);
      if (using.length > 0)
        throw new ServiceError(
          'NOT_POSSIBLE',
          `Recipes use ${mode.name}: ${using.map(({ name }) => name).join(', ')}. Change or retire them first`,
        );
      if (rig.cameraModes.length === 1)
        throw new ServiceError('NOT_POSSIBLE', `${mode.name} is the only mode of this camera; add another one first`);
      await queries.models.CameraMode.update({ retired: momentOfChange() }, { where: { id: modeId, observatoryId } });
    }),
});

async function modeNamed(
  queries: Queries,
  observatoryId: string,
  modeId: string,
): Promise<{ mode: CameraMode; rig: RigRecord }> {
  for (const rig of await rigsOf(queries, observatoryId)) {
    const mode = rig.cameraModes.find(({ id }) => id === modeId);
    if (mode) return { mode, rig };
  }
  throw notFound('camera mode');
}

async function refuseSameName({ models }: Queries, rigId: string, name: string): Promise<void> {
  const same = await models.CameraMode.findOne({ where: { rigId, name } });
  if (!same) return;
  throw refused(
    'name',
    same.retired
      ? `A retired mode of this camera is named "${name}"; bring it back or choose another name`
      : `This camera has a mode named "${name}" already`,
  );
}
