// Pictures of the sky, fetched once and kept: by default from the rendered survey, else from the source a coordinator has named.
import { createHash } from 'node:crypto';
import { mkdir, readFile, rename, rm, utimes, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { BodyOf, ResponseOf, editSurveySource, readSurveySource } from '@meridiem/contract';
import { SURVEY_TILE_PX, THUMBNAIL_PX } from '@meridiem/contract';
import type { PictureFrame, SurveyTile } from '@meridiem/core';
import { frameOfTile, isSurveyTile } from '@meridiem/core';
import type { Config } from '../../config.ts';
import type { Database } from '../../database/connection.ts';
import { settingOf, storeSetting } from '../../database/settings-repository.ts';
import { notFound, ServiceError } from '../../errors.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import type { Picture } from './source.ts';
import { addressOf, checkTemplate, fetchPicture } from './source.ts';

export type SurveyService = ReturnType<typeof createSurveyService>;

export function createSurveyService({ database, config }: { database: Database; config: Config }) {
  const underway = new Map<string, Promise<Picture>>();

  const templateOf = async (observatoryId: string): Promise<string | null> => {
    const stored = await settingOf<{ template: string | null }>(database, observatoryId, 'survey');
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
      return { template: isShown ? template : new URL(template).origin, hosts: [...config.surveyHosts] };
    },

    async edit(viewer: Viewer, { template }: BodyOf<typeof editSurveySource>): Promise<{ ok: true }> {
      if (template !== null) checkTemplate(template, config.surveyHosts);
      await storeSetting(database, viewer.observatoryId, 'survey', { template });
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

function standIn({ simulatorUrl }: Config): string {
  if (!simulatorUrl) throw new ServiceError('NOT_READY', 'There is no source of sky pictures; the drawn map stays');
  return `${simulatorUrl}/survey?ra={ra}&dec={dec}&width={width}&px={px}`;
}

const ENDINGS = { 'image/png': 'png', 'image/jpeg': 'jpg' } as const;

async function readKept(folder: string | null, key: string): Promise<Picture | null> {
  if (!folder) return null;
  for (const type of ['image/png', 'image/jpeg'] as const) {
    const path = join(folder, 'survey', `${key}.${ENDINGS[type]}`);
    const bytes = await readFile(path).catch(() => null);
    if (bytes) {
      const now = new Date();
      await utimes(path, now, now).catch(() => undefined);
      return { bytes, type };
    }
  }
  return null;
}

/** Written beside and renamed: nobody reads half a picture. Where it can’t be kept, a full disk say, it is fetched again. */
async function keep(folder: string | null, key: string, { bytes, type }: Picture): Promise<void> {
  if (!folder) return;
  const path = join(folder, 'survey', `${key}.${ENDINGS[type]}`);
  const beside = `${path}.${process.pid}`;
  try {
    await mkdir(join(folder, 'survey'), { recursive: true });
    await writeFile(beside, bytes);
    await rename(beside, path);
  } catch {
    await rm(beside, { force: true }).catch(() => undefined);
  }
}
