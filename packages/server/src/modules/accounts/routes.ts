import { endOwnSession, listOwnSessions, readSession, signIn, signOut } from '@meridiem/contract';
import type { FastifyInstance } from 'fastify';
import { serve } from '../../plugins/operations.ts';
import type { AccountService } from './service.ts';

export async function accountRoutes(app: FastifyInstance, { service }: { service: AccountService }): Promise<void> {
  serve(app, readSession, async ({ viewer }) => service.session(viewer));
  serve(
    app,
    signIn,
    async ({ body, request, reply }) => {
      const account = await service.signIn(body.email, body.password, request.ip).catch((error: unknown) => {
        request.log.warn({ address: request.ip, reason: (error as { code?: string }).code }, 'a sign-in failed');
        throw error;
      });
      await app.beginSession(request, reply, account.personId);
      return account;
    },
    { rateLimit: { max: 30, timeWindow: '1 minute' } },
  );
  serve(app, signOut, async ({ request, reply }) => {
    await app.endSession(request, reply);
    return { ok: true } as const;
  });
  serve(app, listOwnSessions, async ({ viewer, request }) => ({
    sessions: await service.sessions(viewer, request.sessionId),
  }));
  serve(app, endOwnSession, async ({ viewer, params }) => service.endSession(viewer, params.id));
}
