import {
  acceptJoin,
  changePassword,
  editAccount,
  editMembership,
  endMembership,
  invitePerson,
  listPeople,
  readJoin,
  resetPassword,
  withdrawInvitation,
} from '@meridiem/contract';
import type { FastifyInstance } from 'fastify';
import { serve } from '../../plugins/operations.ts';
import type { PeopleService } from './service.ts';

/** Tokens can't be guessed, but nobody needs to try often. */
const SELDOM = { rateLimit: { max: 30, timeWindow: '1 minute' } };

export async function peopleRoutes(app: FastifyInstance, { service }: { service: PeopleService }): Promise<void> {
  serve(app, listPeople, async ({ viewer }) => service.list(viewer));
  serve(app, invitePerson, async ({ viewer, body }) => service.invite(viewer, body));
  serve(app, withdrawInvitation, async ({ viewer, params }) => service.withdraw(viewer, params.id));
  serve(app, readJoin, async ({ params }) => service.readJoin(params.token), SELDOM);
  serve(
    app,
    acceptJoin,
    async ({ params, body, request, reply }) => {
      const account = await service.join(params.token, body.password);
      await app.beginSession(request, reply, account.personId);
      return account;
    },
    SELDOM,
  );
  serve(app, resetPassword, async ({ viewer, params }) => service.reset(viewer, params.id));
  serve(app, editMembership, async ({ viewer, params, body }) => service.edit(viewer, params.id, body));
  serve(app, endMembership, async ({ viewer, params, body }) => service.leave(viewer, params.id, body.handOnTo));
  serve(app, editAccount, async ({ viewer, body }) => service.editAccount(viewer, body));
  serve(
    app,
    changePassword,
    async ({ viewer, body, request }) => service.changePassword(viewer, body, request.sessionId),
    SELDOM,
  );
}
