import { editMessageChannels, listNotices, readMessageChannels, seeNotices, sendTestMessage } from '@meridiem/contract';
import type { FastifyInstance } from 'fastify';
import { serve } from '../../plugins/operations.ts';
import type { MessageService } from './channels.ts';
import type { NoticeService } from './service.ts';

interface Services {
  readonly service: NoticeService;
  readonly messages: MessageService;
}

export async function noticeRoutes(app: FastifyInstance, { service, messages }: Services): Promise<void> {
  serve(app, listNotices, async ({ viewer }) => service.list(viewer));
  serve(app, seeNotices, async ({ viewer }) => service.see(viewer));
  serve(app, readMessageChannels, async ({ viewer }) => messages.read(viewer));
  serve(app, editMessageChannels, async ({ viewer, body }) => messages.edit(viewer, body));
  serve(app, sendTestMessage, async ({ viewer }) => messages.test(viewer), {
    rateLimit: { max: 5, timeWindow: '1 minute' },
  });
}
