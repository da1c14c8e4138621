import {
  addTimeRemark,
  closeNights,
  editCharging,
  exportDues,
  readAccountedNight,
  readProjectTime,
  readTimeAccount,
  withdrawTimeRemark,
} from '@meridiem/contract';
import type { FastifyInstance } from 'fastify';
import { serve } from '../../plugins/operations.ts';
import type { TimeAccountService } from './service.ts';

export async function timeAccountRoutes(
  app: FastifyInstance,
  { service }: { service: TimeAccountService },
): Promise<void> {
  serve(app, readTimeAccount, async ({ viewer, query }) => service.read(viewer, query.from, query.to));
  serve(app, readAccountedNight, async ({ viewer, params }) => service.readNight(viewer, params));
  serve(app, closeNights, async ({ viewer, params, body }) => service.close(viewer, params.id, body));
  serve(app, addTimeRemark, async ({ viewer, params, body }) => service.remark(viewer, params, body));
  serve(app, withdrawTimeRemark, async ({ viewer, params }) => service.withdraw(viewer, params.id));
  serve(app, editCharging, async ({ viewer, body }) => service.editRule(viewer, body));
  serve(app, readProjectTime, async ({ viewer, params }) => service.ofProject(viewer, params.id));
  serve(app, exportDues, async ({ viewer, query, reply }) => {
    reply
      .type('text/csv; charset=utf-8')
      .header('content-disposition', `attachment; filename="dues ${query.from} to ${query.to}.csv"`);
    return service.dues(viewer, query.from, query.to);
  });
}
