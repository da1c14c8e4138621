// Framing a project anew: looked at first, then written, with everything that undoing needs.
import type {
  BodyOf,
  Reframing,
  ResponseOf,
  editPanel,
  framedAngles,
  previewReframing,
  promoteTryOut,
  reframe,
} from '@meridiem/contract';
import type { Database, Queries } from '../../database/connection.ts';
import { notFound, refused } from '../../errors.ts';
import { announce } from '../../plugins/live.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import type { ChangeService } from '../changes/index.ts';
import { editableProject, insertPointing, panelsOf, readPosition } from '../projects/index.ts';
import { promoted } from './promote.ts';
import type { FramedProject, Intention } from './reframe.ts';
import { intentionOf, reframingOf, writeReframing } from './reframe.ts';
import { takeBackPromotion } from './take-back-promotion.ts';
import { takeBackReframing } from './take-back-reframing.ts';
import { anglesOfProjects, lockProject, projectOfPanel, storeComposition } from './repository.ts';

export type FramingService = ReturnType<typeof createFramingService>;

export function createFramingService({ database, changes }: { database: Database; changes: ChangeService }) {
  changes.register('reframing', {
    by: 'owner',
    takeBack: takeBackReframing,
  });
  changes.register('promotion', {
    by: 'owner',
    takeBack: (queries, _viewer, change) => takeBackPromotion(queries, change),
  });
  const framedProject = async (queries: Queries, viewer: Viewer, projectId: string): Promise<FramedProject> => {
    const { id, name, rigId } = await editableProject(queries, viewer, projectId);
    return { id, name, rigId, observatoryId: viewer.observatoryId };
  };

  const write = async (
    queries: Queries,
    viewer: Viewer,
    project: FramedProject,
    intention: Intention,
    doubtful: 'keep' | 'lose',
  ): Promise<void> => {
    const { before, after } = await writeReframing(queries, project, intention, doubtful);
    await changes.record(queries, viewer, {
      entity: 'reframing',
      entityId: project.id,
      projectId: project.id,
      words: `framing of ${project.name}`,
      before: { ...before },
      after: { ...after },
    });
  };

  return {
    async preview(viewer: Viewer, projectId: string, { panels }: BodyOf<typeof previewReframing>): Promise<Reframing> {
      const project = await framedProject(database, viewer, projectId);
      return reframingOf(await intentionOf(database, project, panels), project);
    },

    reframe: (
      viewer: Viewer,
      projectId: string,
      { panels, doubtful, composition }: BodyOf<typeof reframe>,
    ): Promise<Reframing> =>
      database.transaction(async (queries) => {
        await lockProject(queries, projectId);
        const project = await framedProject(queries, viewer, projectId);
        const intention = await intentionOf(queries, project, panels);
        await write(queries, viewer, project, intention, doubtful);
        if (composition) await storeComposition(queries, projectId, composition);
        return reframingOf(intention, project);
      }),

    async angles(viewer: Viewer, rigId: string): Promise<ResponseOf<typeof framedAngles>> {
      const angles = await anglesOfProjects(database, viewer, rigId);
      return { angles };
    },

    promote: (viewer: Viewer, body: BodyOf<typeof promoteTryOut>): Promise<ResponseOf<typeof promoteTryOut>> =>
      database.transaction(async (queries) => {
        const { project, attributionIds } = await promoted(queries, viewer, body);
        await changes.record(queries, viewer, {
          entity: 'promotion',
          entityId: project.id,
          projectId: project.id,
          words: `${body.name}, begun from ${body.exposureIds.length} exposures`,
          before: {},
          after: { attributionIds },
        });
        return project;
      }),

    /** One panel by typed coordinates. Where credit would be lost it is refused: that is looked at first, by framing anew. */
    editPanel: (viewer: Viewer, panelId: string, body: BodyOf<typeof editPanel>): Promise<{ ok: true }> =>
      database.transaction(async (queries) => {
        const projectId = await projectOfPanel(queries, viewer.observatoryId, panelId);
        if (projectId === null) throw notFound('panel');
        await lockProject(queries, projectId);
        const { state } = await editableProject(queries, viewer, projectId);
        const project = await framedProject(queries, viewer, projectId);
        const position = readPosition(body.raText, body.decText);
        if (!position && state === 'granted')
          throw refused('raText', 'A granted project needs a position; give both coordinates');
        const all = await panelsOf(queries, viewer.observatoryId, project.id);
        const { positionAngleDeg } = body;
        const wanted = all.flatMap((one) => {
          const { raDeg, decDeg } = one.id === panelId ? { ...one, ...position } : one;
          const angle = one.id === panelId ? positionAngleDeg : one.positionAngleDeg;
          return raDeg === null || decDeg === null ? [] : [{ raDeg, decDeg, positionAngleDeg: angle }];
        });
        if (position && wanted.length === all.length) {
          const intention = await intentionOf(queries, project, wanted);
          const { exposures } = reframingOf(intention, project).lose;
          if (exposures > 0)
            throw refused(
              'raText',
              `${exposures} exposures would lose their credit here; reframe the project to see which, and decide`,
            );
          await write(queries, viewer, project, intention, 'keep');
          return { ok: true };
        }
        const place = position ?? { raDeg: null, decDeg: null };
        await insertPointing(queries, { observatoryId: viewer.observatoryId, panelId, ...place, positionAngleDeg });
        for (const topic of ['projects', 'plan'] as const) await announce(queries, viewer.observatoryId, topic);
        return { ok: true };
      }),
  };
}
