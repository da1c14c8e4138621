// One's own account: name, time zone, password.
import type { BodyOf, changePassword, editAccount } from '@meridiem/contract';
import type { Queries } from '../../database/connection.ts';
import { refused } from '../../errors.ts';
import { announce } from '../../plugins/live.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { endSessions } from '../../plugins/sessions-repository.ts';
import { requireTimeZone } from '../../time-zone.ts';
import { hashPassword, passwordFits, requireUncommonPassword } from '../accounts/index.ts';
import { voidLinks } from './links-repository.ts';
import type { PeopleParts } from './service.ts';

export function createOwnAccount({ database }: PeopleParts) {
  return {
    async editAccount(
      viewer: Viewer,
      { name, timeZone, fitsObserver }: BodyOf<typeof editAccount>,
    ): Promise<{ ok: true }> {
      if (timeZone !== undefined) requireTimeZone(timeZone);
      await database.models.Person.update({ name, timeZone, fitsObserver }, { where: { id: viewer.personId } });
      await announce(database, viewer.observatoryId, 'observatory');
      return { ok: true };
    },

    async changePassword(
      viewer: Viewer,
      { current, next }: BodyOf<typeof changePassword>,
      keptSessionId: string | null,
    ): Promise<{ ok: true }> {
      const stored = await database.models.Person.findByPk(viewer.personId);
      if (!(await passwordFits(stored!.passwordHash, current)))
        throw refused('current', 'This is not your present password');
      requireUncommonPassword(next, 'next');
      const passwordHash = await hashPassword(next);
      await database.transaction(async (queries) => {
        await replacePassword(queries, viewer.personId, passwordHash);
        await endSessions(queries, viewer.personId, keptSessionId === null ? {} : { except: keptSessionId });
      });
      return { ok: true };
    },
  };
}

/** A new password makes every link to choose another one worthless. */
export async function replacePassword(queries: Queries, personId: string, passwordHash: string): Promise<void> {
  await queries.models.Person.update({ passwordHash, demoPassword: null }, { where: { id: personId } });
  await voidLinks(queries, { kind: 'reset', personId });
}
