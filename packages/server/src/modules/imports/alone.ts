// What importing stands on, in processes that serve nobody: a worker, the command line.
import { createClock } from '../../clock.ts';
import type { Database } from '../../database/connection.ts';
import { createChangeService } from '../changes/index.ts';
import { createObservatoryService } from '../observatory/index.ts';
import type { ApplyParts } from './applying.ts';

export function applyParts(database: Database): ApplyParts {
  const changes = createChangeService({ database });
  return { changes, observatory: createObservatoryService({ database, clock: createClock(null), changes }) };
}
