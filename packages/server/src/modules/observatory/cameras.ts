// Camera modes: added and renamed.
import type { Observatory } from '@meridiem/contract';
import { notFound, refused } from '../../errors.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import type { NewCameraMode } from './rigs-repository.ts';
import { insertCameraMode } from './rigs-repository.ts';
import { rigsOf } from './repository.ts';
import type { ObservatoryUse } from './service.ts';

export const createCameras = ({ changing }: ObservatoryUse) => ({
  /** One more mode of a rig's camera. */
  addCameraMode: (viewer: Viewer, rigId: string, mode: Omit<NewCameraMode, 'cameraId'>): Promise<Observatory> =>
    changing(viewer, async (queries) => {
      const rig = (await rigsOf(queries, viewer.observatoryId)).find(({ id }) => id === rigId);
      if (!rig) throw notFound('rig');
      if (rig.cameraModes.some(({ name }) => name === mode.name))
        throw refused('name', `This camera has a mode named "${mode.name}" already`);
      await insertCameraMode(queries, viewer.observatoryId, { cameraId: rig.cameraId, ...mode });
    }),

  renameCameraMode: (viewer: Viewer, modeId: string, name: string): Promise<Observatory> =>
    changing(viewer, async ({ models }) => {
      const { observatoryId } = viewer;
      const [count] = await models.CameraMode.update({ name }, { where: { id: modeId, observatoryId } });
      if (count === 0) throw notFound('camera mode');
    }),
});
