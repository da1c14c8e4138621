// Notices as rows: each person's own, newest first.
import type { Notice, Role } from '@meridiem/contract';
import type { Queries } from '../../database/connection.ts';
import { NOW } from '../../database/now.ts';
import { inForce } from '../../database/validity.ts';

/** Notices shown at once. */
const SHOWN = 50;

export interface NewNotice {
  readonly observatoryId: string;
  readonly personId: string;
  readonly words: string;
  /** A page of the application. */
  readonly link: string;
  /** danger: someone must act at once, whatever the hour; night: how a night went; news where left out. */
  readonly kind?: 'news' | 'night' | 'danger';
}

/** @returns its number */
export const insertNotice = async ({ models }: Queries, notice: NewNotice): Promise<string> =>
  String((await models.Notice.create(notice)).id);

export async function newestNotices({ models }: Queries, observatoryId: string, personId: string): Promise<Notice[]> {
  const rows = await models.Notice.findAll({
    where: { observatoryId, personId },
    order: [['id', 'DESC']],
    limit: SHOWN,
  });
  return rows.map(({ id, at, words, link, seen, kind }) => ({
    id: String(id),
    at: at.getTime(),
    words,
    link,
    kind,
    seen: seen !== null,
  }));
}

export const markNoticesSeen = ({ models }: Queries, observatoryId: string, personId: string): Promise<unknown> =>
  models.Notice.update({ seen: NOW }, { where: { observatoryId, personId, seen: null } });

/** Members of an observatory who have one of the roles: whom something concerns. */
export async function peopleAs({ models }: Queries, observatoryId: string, role: readonly Role[]): Promise<string[]> {
  const rows = await models.Membership.findAll({
    where: { observatoryId, role: [...role], suspended: false, during: inForce() },
    attributes: ['personId'],
  });
  return rows.map(({ personId }) => personId);
}
