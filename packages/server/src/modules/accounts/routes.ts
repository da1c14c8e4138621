import { readSession, signIn, signOut } from '@meridiem/contract';
import type { FastifyInstance } from 'fastify';
import { serve } from '../../plugins/operations.ts';
import type { AccountService } from './service.ts';

export async function accountRoutes(app: FastifyInstance, { service }: { service: AccountService }): Promise<void> {
  serve(app, readSession, async ({ viewer }) => service.session(viewer));
  serve(
    app,
    signIn,
    async ({ body, request }) => {
      const account = await service.signIn(body.email, body.password);
      await request.session.regenerate();
      request.session.personId = account.personId;
      request.session.signedInUtcMs = Date.now();
      return account;
    },
    { rateLimit: { max: 30, timeWindow: '1 minute' } },
  );
  serve(app, signOut, async ({ request }) => {
    await request.session.destroy();
    return { ok: true } as const;
  });
}
