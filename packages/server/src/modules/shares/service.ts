// Members' shares: agreed, given, swapped, and where everybody stands.
import type { Database } from '../../database/connection.ts';
import type { ChangeService } from '../changes/index.ts';
import type { ObservatoryService } from '../observatory/index.ts';
import { createGiving } from './giving.ts';
import { createPeriods } from './periods.ts';
import { createStanding } from './standing.ts';

export interface SharesParts {
  readonly database: Database;
  readonly changes: ChangeService;
  readonly observatory: ObservatoryService;
}

export type ShareService = ReturnType<typeof createShareService>;

export const createShareService = (parts: SharesParts) => ({
  ...createStanding(parts),
  ...createPeriods(parts),
  ...createGiving(parts),
});
