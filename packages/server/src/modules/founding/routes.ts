import { foundObservatory, readFounding } from '@meridiem/contract';
import type { FastifyInstance } from 'fastify';
import { serve } from '../../plugins/operations.ts';
import type { FoundingService } from './service.ts';

const SELDOM = { rateLimit: { max: 60, timeWindow: '1 minute' } };

export async function foundingRoutes(app: FastifyInstance, { service }: { service: FoundingService }): Promise<void> {
  serve(app, readFounding, async ({ params, query }) => service.read(params.token, query), SELDOM);
  serve(
    app,
    foundObservatory,
    async ({ params, body, request, reply }) => {
      const account = await service.found(params.token, body);
      await app.beginSession(request, reply, account.personId);
      return account;
    },
    SELDOM,
  );
}
