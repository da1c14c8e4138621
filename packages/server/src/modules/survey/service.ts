// Pictures of the sky, fetched once and kept: by default from the rendered survey, else from the source a coordinator has named.
import { createHash } from 'node:crypto';
import type { BodyOf, ResponseOf, editSurveySource, readSurveySource } from '@meridiem/contract';
import { SURVEY_TILE_PX, THUMBNAIL_PX } from '@meridiem/contract';
import type { PictureFrame, SurveyTile } from '@meridiem/core';
import { frameOfTile, isSurveyTile } from '@meridiem/core';
import type { Config } from '../../config.ts';
import type { Database } from '../../database/connection.ts';
import { settingOf, storeSetting } from '../../database/settings-repository.ts';
import { notFound, ServiceError } from '../../errors.ts';
import { announce } from '../../plugins/live.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import type { ChangeService } from '../changes/index.ts';
import { takeBackSetting } from '../changes/index.ts';
import { clearKept, keep, keptAmount, readKept } from './kept-pictures.ts';
import type { Picture } from './source.ts';
import { addressOf, checkTemplate, fetchPicture } from './source.ts';

export type SurveyService = ReturnType<typeof createSurveyService>;

interface SurveyParts {
  readonly database: Database;
  readonly config: Config;
  readonly changes: ChangeService;
}

export function createSurveyService({ database, config, changes }: SurveyParts) {
  changes.register('survey', {
    by: 'coordinator',
    takeBack: (queries, _viewer, change) => takeBackSetting(queries, change),
  });
  const underway = new Map<string, Promise<Picture>>();

  const templateOf = async (observatoryId: string): Promise<string | null> => {
    const stored = await settingOf<SourceSetting>(database, observatoryId, 'survey');
    return stored?.template ?? null;
  };

  const picture = async (viewer: Viewer, frame: PictureFrame, px: number): Promise<Picture> => {
    const template = (await templateOf(viewer.observatoryId)) ?? standIn(config);
    const address = addressOf(template, frame, px);
    // A new installation of the rendered survey may listen elsewhere; its pictures are the same.
    const key = createHash('sha256')
      .update(template === standIn(config) ? `rendered ${addressOf('{ra} {dec} {width} {px}', frame, px)}` : address)
      .digest('hex');
    const kept = await readKept(config.cacheFolder, key);
    if (kept) return kept;
    const fetching = underway.get(key) ?? fetchPicture(address).finally(() => underway.delete(key));
    underway.set(key, fetching);
    const fetched = await fetching;
    await keep(config.cacheFolder, key, fetched);
    return fetched;
  };

  return {
    async source(viewer: Viewer): Promise<ResponseOf<typeof readSurveySource>> {
      const template = await templateOf(viewer.observatoryId);
      // The address may carry a key: whoever can't change it is told no more than where the pictures come from.
      const isShown = template === null || viewer.role === 'coordinator';
      return {
        template: isShown ? template : new URL(template).origin,
        hosts: [...config.surveyHosts],
        key: sourceKey(template),
        stored: await keptAmount(config.cacheFolder),
      };
    },

    async edit(viewer: Viewer, { template }: BodyOf<typeof editSurveySource>): Promise<{ ok: true }> {
      if (template !== null) checkTemplate(template, config.surveyHosts);
      await database.transaction(async (queries) => {
        const before = (await settingOf<SourceSetting>(queries, viewer.observatoryId, 'survey')) ?? { template: null };
        await storeSetting(queries, viewer.observatoryId, 'survey', { template });
        await changes.record(queries, viewer, {
          entity: 'survey',
          entityId: viewer.observatoryId,
          projectId: null,
          words: 'where pictures of the sky come from',
          before: { ...before },
          after: { template },
        });
        await announce(queries, viewer.observatoryId, 'observatory');
      });
      return { ok: true };
    },

    async clear(): Promise<{ ok: true }> {
      await clearKept(config.cacheFolder);
      return { ok: true };
    },

    async tile(viewer: Viewer, tile: SurveyTile): Promise<Picture> {
      if (!isSurveyTile(tile)) throw notFound('picture of the sky');
      return picture(viewer, frameOfTile(tile), SURVEY_TILE_PX);
    },

    thumbnail: (
      viewer: Viewer,
      { raDeg, decDeg, widthDeg }: { raDeg: number; decDeg: number; widthDeg: number },
    ): Promise<Picture> => picture(viewer, { centre: { raDeg, decDeg }, widthDeg }, THUMBNAIL_PX),
  };
}

interface SourceSetting {
  readonly template: string | null;
}

const KEY_LENGTH = 8;
const sourceKey = (template: string | null): string =>
  createHash('sha256')
    .update(template ?? 'rendered')
    .digest('hex')
    .slice(0, KEY_LENGTH);

function standIn({ simulatorUrl }: Config): string {
  if (!simulatorUrl) throw new ServiceError('NOT_READY', 'There is no source of sky pictures; the drawn map stays');
  return `${simulatorUrl}/survey?ra={ra}&dec={dec}&width={width}&px={px}`;
}
