// Notices as rows: each person's own, newest first.
import type { Notice } from '@meridiem/contract';
import type { Queries } from '../../database/connection.ts';
import { NOW } from '../../database/now.ts';

/** Notices shown at once. */
const SHOWN = 50;

export interface NewNotice {
  readonly observatoryId: string;
  readonly personId: string;
  readonly words: string;
  /** A page of the application. */
  readonly link: string;
}

export const insertNotice = ({ models }: Queries, notice: NewNotice): Promise<unknown> => models.Notice.create(notice);

export async function newestNotices({ models }: Queries, observatoryId: string, personId: string): Promise<Notice[]> {
  const rows = await models.Notice.findAll({
    where: { observatoryId, personId },
    order: [['id', 'DESC']],
    limit: SHOWN,
  });
  return rows.map(({ id, at, words, link, seen }) => ({
    id: String(id),
    at: at.getTime(),
    words,
    link,
    seen: seen !== null,
  }));
}

export const markNoticesSeen = ({ models }: Queries, observatoryId: string, personId: string): Promise<unknown> =>
  models.Notice.update({ seen: NOW }, { where: { observatoryId, personId, seen: null } });
