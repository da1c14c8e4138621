import { readSession, signIn, signOut } from '@meridiem/contract';
import type { FastifyInstance } from 'fastify';
import { serve } from '../../plugins/operations.ts';
import { beginSession } from '../../plugins/sessions.ts';
import type { AccountService } from './service.ts';

export async function accountRoutes(app: FastifyInstance, { service }: { service: AccountService }): Promise<void> {
  serve(app, readSession, async ({ viewer }) => service.session(viewer));
  serve(
    app,
    signIn,
    async ({ body, request }) => {
      const account = await service.signIn(body.email, body.password);
      await beginSession(request, account.personId);
      return account;
    },
    { rateLimit: { max: 30, timeWindow: '1 minute' } },
  );
  serve(app, signOut, async ({ request }) => {
    await request.session.destroy();
    return { ok: true } as const;
  });
}
