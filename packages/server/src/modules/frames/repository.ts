// An exposure's file, verdicts, notes and neighbours, as rows.
import type { ExposurePage, GivenVerdictBody } from '@meridiem/contract';
import { Op } from 'sequelize';
import type { Queries } from '../../database/connection.ts';
import { NOW } from '../../database/now.ts';

/** A file as it is to be. */
export interface StoredFrame {
  /** Under the folder for frames. */
  readonly name: string;
  readonly sizeBytes: number;
}

/** @returns null where the exposure has no file */
export async function storedFrameOf(
  { models }: Queries,
  observatoryId: string,
  exposureId: string,
): Promise<StoredFrame | null> {
  const row = await models.Frame.findOne({ where: { observatoryId, exposureId } });
  return row && { name: row.name, sizeBytes: Number(row.sizeBytes) };
}

export async function nightOf({ models }: Queries, exposureId: string): Promise<string> {
  return (await models.Exposure.findByPk(exposureId, { attributes: ['nightDate'], rejectOnEmpty: true })).nightDate;
}

/** Names of files that have come whole, the newest exposures first. */
export async function copiedNames({ models }: Queries, exposureIds: readonly string[]): Promise<string[]> {
  const rows = await models.Frame.findAll({
    where: { exposureId: [...exposureIds], copied: { [Op.ne]: null } },
    order: [['name', 'DESC']],
  });
  return rows.map(({ name }) => name);
}

/** A file as its report said it would be. */
export interface AwaitedFrame {
  readonly exposureId: string;
  readonly observatoryId: string;
  readonly name: string;
  readonly sizeBytes: number;
  /** Hexadecimal. */
  readonly sha256: string;
  readonly isCopied: boolean;
}

/** @param id of the step of its exposure, or of a calibration frame itself */
export async function frameOfStep({ models }: Queries, id: string): Promise<AwaitedFrame | null> {
  const exposure = await models.Exposure.findOne({
    where: { [Op.or]: [{ runStepId: id }, { id }] },
    attributes: ['id'],
  });
  const frame = exposure && (await models.Frame.findByPk(exposure.id));
  if (!frame) return null;
  const { exposureId, observatoryId, name, sizeBytes, sha256, copied } = frame;
  return {
    ...{ exposureId, observatoryId, name },
    sizeBytes: Number(sizeBytes),
    sha256: sha256.toString('hex'),
    isCopied: copied !== null,
  };
}

export const markCopied = ({ models }: Queries, exposureId: string): Promise<unknown> =>
  models.Frame.update({ copied: NOW }, { where: { exposureId } });

export const verdictsOf = (queries: Queries, exposureId: string): Promise<GivenVerdictBody[]> =>
  queries.rows(
    `SELECT v.verdict, CASE WHEN v.withdraws IS NULL THEN v.reason ELSE 'withdrawn' END AS reason, p.name AS by, v.by_coordinator AS "byCoordinator", (extract(epoch FROM v.at) * 1000)::float8 AS "givenUtcMs"
     FROM verdicts v LEFT JOIN people p ON p.id = v.person_id WHERE v.exposure_id = $1 ORDER BY v.seq DESC LIMIT 100`,
    [exposureId],
  );

export async function notesOf({ models }: Queries, exposureId: string): Promise<ExposurePage['notes']> {
  const rows = await models.ExposureNote.findAll({
    where: { exposureId, withdrawn: null },
    order: [['written', 'DESC']],
    include: ['person'],
  });
  return rows.map((row) => ({
    by: (row as typeof row & { person: { name: string } }).person.name,
    words: row.words,
    writtenUtcMs: row.written.getTime(),
  }));
}

export interface NewNote {
  readonly observatoryId: string;
  readonly exposureId: string;
  readonly personId: string;
  readonly words: string;
}

export const storeNote = async ({ models }: Queries, note: NewNote): Promise<string> =>
  (await models.ExposureNote.create({ ...note })).id;

export const withdrawNote = ({ models }: Queries, id: string): Promise<unknown> =>
  models.ExposureNote.update({ withdrawn: NOW }, { where: { id } });

/** The exposures of the same panel and filter next in time. */
export const neighboursOf = async (
  queries: Queries,
  exposureId: string,
): Promise<Pick<ExposurePage, 'beforeId' | 'afterId'>> => {
  const next = (than: '<' | '>', order: 'DESC' | 'ASC'): string =>
    `(SELECT o.exposure_id FROM ledger_rows o WHERE o.observatory_id = r.observatory_id AND o.panel_id IS NOT DISTINCT FROM r.panel_id AND o.filter_id = r.filter_id
        AND (o.start_utc, o.exposure_id) ${than} (r.start_utc, r.exposure_id) ORDER BY o.start_utc ${order}, o.exposure_id ${order} LIMIT 1)`;
  const row = await queries.one<Pick<ExposurePage, 'beforeId' | 'afterId'>>(
    `SELECT ${next('<', 'DESC')} AS "beforeId", ${next('>', 'ASC')} AS "afterId" FROM ledger_rows r WHERE r.exposure_id = $1 LIMIT 1`,
    [exposureId],
  );
  return row ?? { beforeId: null, afterId: null };
};
