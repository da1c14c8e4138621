// What people are told of: written in the transaction of what happened, read by the person alone.
import type { listNotices, ResponseOf } from '@meridiem/contract';
import type { Database, Queries } from '../../database/connection.ts';
import { announce } from '../../plugins/live.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { insertMessages } from './messages-repository.ts';
import type { NewNotice } from './repository.ts';
import { insertNotice, markNoticesSeen, newestNotices } from './repository.ts';

export async function notify(queries: Queries, notice: NewNotice): Promise<void> {
  const noticeId = await insertNotice(queries, notice);
  await insertMessages(queries, { ...notice, noticeId, isDanger: notice.kind === 'danger' });
  await announce(queries, notice.observatoryId, 'notices');
}

export type NoticeService = ReturnType<typeof createNoticeService>;

export function createNoticeService({ database }: { database: Database }) {
  return {
    async list({ observatoryId, personId }: Viewer): Promise<ResponseOf<typeof listNotices>> {
      const notices = await newestNotices(database, observatoryId, personId);
      return { notices, unseen: notices.filter(({ seen }) => !seen).length };
    },

    async see({ observatoryId, personId }: Viewer): Promise<{ ok: true }> {
      await database.transaction(async (queries) => {
        await markNoticesSeen(queries, observatoryId, personId);
        await announce(queries, observatoryId, 'notices');
      });
      return { ok: true };
    },
  };
}
