// What people are told of: written in the transaction of what happened, read by the person alone.
import type { listNotices, Notice, ResponseOf } from '@meridiem/contract';
import type { Database, Queries } from '../../database/connection.ts';
import { announce } from '../../plugins/live.ts';
import type { Viewer } from '../../plugins/sessions.ts';

export interface NewNotice {
  readonly observatoryId: string;
  readonly personId: string;
  readonly words: string;
  /** A page of the application. */
  readonly link: string;
}

export async function notify(queries: Queries, { observatoryId, personId, words, link }: NewNotice): Promise<void> {
  await queries.rows('INSERT INTO notices (observatory_id, person_id, words, link) VALUES ($1, $2, $3, $4)', [
    observatoryId,
    personId,
    words,
    link,
  ]);
  await announce(queries, observatoryId, 'notices');
}

/** Notices shown at once. */
const SHOWN = 50;

export type NoticeService = ReturnType<typeof createNoticeService>;

export function createNoticeService({ database }: { database: Database }) {
  return {
    async list({ observatoryId, personId }: Viewer): Promise<ResponseOf<typeof listNotices>> {
      const notices = await database.rows<Notice>(
        `SELECT id::text, (extract(epoch FROM at) * 1000)::float8 AS at, words, link, seen IS NOT NULL AS seen
         FROM notices WHERE observatory_id = $1 AND person_id = $2 ORDER BY id DESC LIMIT ${SHOWN}`,
        [observatoryId, personId],
      );
      return { notices, unseen: notices.filter(({ seen }) => !seen).length };
    },

    async see({ observatoryId, personId }: Viewer): Promise<{ ok: true }> {
      await database.transaction(async (queries) => {
        await queries.rows(
          'UPDATE notices SET seen = now() WHERE observatory_id = $1 AND person_id = $2 AND seen IS NULL',
          [observatoryId, personId],
        );
        await announce(queries, observatoryId, 'notices');
      });
      return { ok: true };
    },
  };
}
