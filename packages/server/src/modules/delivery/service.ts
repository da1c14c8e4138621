// A project's frames handed over to its owner: own lights and the calibration that fits them, under names of their choice, with checksums.
import { createHash } from 'node:crypto';
import type { Readable } from 'node:stream';
import { join } from 'node:path';
import type { DeliveredFile, Delivery, DeliveryQuery } from '@meridiem/contract';
import { DEFAULT_DELIVERY } from '@meridiem/contract';
import type { NamePart, NameRule, TarLayout } from '@meridiem/core';
import { deliveryWithCalibration, plainName, tarLayout } from '@meridiem/core';
import type { Config } from '../../config.ts';
import type { Database } from '../../database/connection.ts';
import { notAllowed, notFound, ServiceError } from '../../errors.ts';
import { fittingCalibration } from '../calibration/index.ts';
import { sizeOf } from '../frames/index.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { isVisible } from '../../privacy.ts';
import type { EntrySource } from './archive.ts';
import { archiveStream } from './archive.ts';
import { checksums, frameList } from './lists.ts';
import type { DeliveredRow } from './repository.ts';
import { calibrationRows, countWithoutFile, deliveredRows } from './repository.ts';

export interface DeliveryParts {
  readonly database: Database;
  readonly config: Pick<Config, 'framesFolder'>;
}

export interface ArchiveDownload {
  readonly name: string;
  readonly sizeBytes: number;
  /** Another one where any of its bytes would differ. */
  readonly tag: string;
  read(range: { readonly start: number; readonly end: number }): Readable;
}

export type DeliveryService = ReturnType<typeof createDeliveryService>;

export function createDeliveryService({ database, config }: DeliveryParts) {
  async function projectOf({ observatoryId, personId, role }: Viewer, id: string): Promise<string> {
    const project = await database.models.Project.findOne({ where: { id, observatoryId } });
    if (!project || !isVisible(project, { role, personId })) throw notFound('project');
    if (role !== 'coordinator' && project.ownerId !== personId)
      throw notAllowed('The files of a project are its owner’s and the coordinators’');
    return project.name;
  }

  const pathOf = ({ path }: DeliveredRow): string => join(config.framesFolder ?? '', path);

  async function gather(viewer: Viewer, id: string, query: DeliveryQuery) {
    const { folders, name, set, calibration } = { ...DEFAULT_DELIVERY, ...query };
    const projectName = await projectOf(viewer, id);
    const lights = await deliveredRows(database, id, set);
    const fitting = calibration === 'with' ? await fittingCalibration(database, viewer.observatoryId, lights) : [];
    const rows = [...lights, ...(fitting.length > 0 ? await calibrationRows(database, fitting) : [])];
    const sizes = await Promise.all(rows.map((row) => sizeOf(pathOf(row))));
    const isThere = (row: DeliveredRow, i: number): boolean =>
      config.framesFolder !== null && sizes[i] === row.sizeBytes;
    const there = rows.filter(isThere);
    const names = namesOf(there, { folders: partsOf(folders), name: partsOf(name) });
    const files = there.map(
      ({ exposureId, sizeBytes, sha256, kind, filterLetter, exposureSec, startUtcMs, verdict }, i): DeliveredFile => ({
        ...{ exposureId, name: names[i], sizeBytes, sha256, kind, filterLetter, exposureSec, startUtcMs, verdict },
      }),
    );
    const missing = rows.filter((row, i) => !isThere(row, i)).map(({ path }) => path);
    return { projectName, rows: there, files, missing, set };
  }

  return {
    async read(viewer: Viewer, id: string, query: DeliveryQuery): Promise<Delivery> {
      const { projectName, rows, files, missing, set } = await gather(viewer, id, query);
      const { sizeBytes } = layoutOf(rows, files);
      return {
        projectName,
        files,
        missing,
        withoutFile: await countWithoutFile(database, id, set),
        archiveName: archiveName(projectName),
        archiveBytes: sizeBytes,
      };
    },

    async archive(viewer: Viewer, id: string, query: DeliveryQuery): Promise<ArchiveDownload> {
      const { projectName, rows, files } = await gather(viewer, id, query);
      if (files.length === 0) throw new ServiceError('NOT_POSSIBLE', 'There is no file to hand over yet');
      const layout = layoutOf(rows, files);
      const sources = new Map<string, EntrySource>([
        ...listsOf(files),
        ...files.map(({ name }, i) => [name, { path: pathOf(rows[i]) }] as const),
      ]);
      return {
        name: archiveName(projectName),
        sizeBytes: layout.sizeBytes,
        tag: tagOf(files),
        read: (range) => archiveStream(layout, sources, range),
      };
    },
  };
}

/** Lights by the chosen parts, calibration beside them; in the order of the rows, lights first. */
function namesOf(rows: readonly DeliveredRow[], rule: NameRule): string[] {
  const named = rows.map((row) => ({ ...row, verdict: row.verdict ?? '' }));
  const isLight = ({ kind }: DeliveredRow): boolean => kind === 'light';
  const { lights, calibration } = deliveryWithCalibration(
    named.filter((_, i) => isLight(rows[i])),
    named.filter((_, i) => !isLight(rows[i])),
    rule,
  );
  return [...lights, ...calibration];
}

const partsOf = (text: string): NamePart[] => (text === '' ? [] : (text.split(',') as NamePart[]));

const listsOf = (files: readonly DeliveredFile[]): (readonly [name: string, source: { bytes: Uint8Array }])[] => [
  ['frames.csv', { bytes: Buffer.from(frameList(files)) }],
  ['checksums.sha256', { bytes: Buffer.from(checksums(files)) }],
];

function layoutOf(rows: readonly DeliveredRow[], files: readonly DeliveredFile[]): TarLayout {
  const newest = Math.max(0, ...rows.map(({ recordedUtcMs }) => recordedUtcMs));
  return tarLayout([
    ...listsOf(files).map(([name, { bytes }]) => ({ name, sizeBytes: bytes.length, modifiedUtcMs: newest })),
    ...files.map(({ name, sizeBytes }, i) => ({ name, sizeBytes, modifiedUtcMs: rows[i].recordedUtcMs })),
  ]);
}

const archiveName = (projectName: string): string => `${plainName(projectName, LONGEST_NAME)}.tar`;
const LONGEST_NAME = 60;

const tagOf = (files: readonly DeliveredFile[]): string =>
  createHash('sha256').update(frameList(files)).digest('hex').slice(0, 32);
