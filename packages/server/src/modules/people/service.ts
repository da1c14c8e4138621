// People of an observatory: members, how they come, and each one's own account.
import type { Database } from '../../database/connection.ts';
import type { AccountService } from '../accounts/index.ts';
import type { ChangeService } from '../changes/index.ts';
import { createJoining } from './joining.ts';
import { createMembers } from './members.ts';
import { createOwnAccount } from './own-account.ts';

export interface PeopleParts {
  readonly database: Database;
  readonly accounts: AccountService;
  readonly changes: ChangeService;
}

export type PeopleService = ReturnType<typeof createPeopleService>;

export const createPeopleService = (parts: PeopleParts) => ({
  ...createMembers(parts),
  ...createJoining(parts),
  ...createOwnAccount(parts),
});
