// The time account: read, said, closed, charged.
import type { Clock } from '../../clock.ts';
import type { Database } from '../../database/connection.ts';
import type { ChangeService } from '../changes/index.ts';
import type { ObservatoryService } from '../observatory/index.ts';
import { createCharging } from './charging.ts';
import { createClosing } from './closing.ts';
import { createTimeReading } from './reading.ts';
import { createRemarks } from './remarks.ts';

export interface TimeAccountParts {
  readonly database: Database;
  readonly clock: Clock;
  readonly changes: ChangeService;
  readonly observatory: ObservatoryService;
}

export type TimeAccountService = ReturnType<typeof createTimeAccountService>;

export const createTimeAccountService = (parts: TimeAccountParts) => ({
  ...createTimeReading(parts),
  ...createRemarks(parts),
  ...createClosing(parts),
  ...createCharging(parts),
});
