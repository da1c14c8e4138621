import { listNotices, seeNotices } from '@meridiem/contract';
import type { FastifyInstance } from 'fastify';
import { serve } from '../../plugins/operations.ts';
import type { NoticeService } from './service.ts';

export async function noticeRoutes(app: FastifyInstance, { service }: { service: NoticeService }): Promise<void> {
  serve(app, listNotices, async ({ viewer }) => service.list(viewer));
  serve(app, seeNotices, async ({ viewer }) => service.see(viewer));
}
