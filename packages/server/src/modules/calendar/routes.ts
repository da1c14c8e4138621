import {
  exportNightCalendar,
  followCalendarFeed,
  makeCalendarFeed,
  readCalendarFeed,
  revokeCalendarFeed,
} from '@meridiem/contract';
import type { FastifyInstance, FastifyReply } from 'fastify';
import { serve } from '../../plugins/operations.ts';
import type { CalendarService } from './service.ts';

/** Calendar programs ask a few times an hour. */
const SELDOM = { rateLimit: { max: 60, timeWindow: '1 minute' } };

export async function calendarRoutes(app: FastifyInstance, { service }: { service: CalendarService }): Promise<void> {
  const asCalendar = (reply: FastifyReply): FastifyReply => reply.type('text/calendar; charset=utf-8');
  serve(app, exportNightCalendar, async ({ viewer, params, reply }) => {
    const text = await service.ofNight(viewer, params.nightDate);
    asCalendar(reply).header('content-disposition', `attachment; filename="night ${params.nightDate}.ics"`);
    return text;
  });
  serve(
    app,
    followCalendarFeed,
    async ({ params, reply }) => {
      const text = await service.feed(params.token);
      asCalendar(reply);
      return text;
    },
    SELDOM,
  );
  serve(app, readCalendarFeed, async ({ viewer }) => ({ madeUtcMs: await service.madeAt(viewer) }));
  serve(app, makeCalendarFeed, async ({ viewer }) => service.make(viewer));
  serve(app, revokeCalendarFeed, async ({ viewer }) => service.revoke(viewer));
}
