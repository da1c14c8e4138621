// Hours asked for projects, and how that is decided.
import type { Database } from '../../database/connection.ts';
import type { ChangeService } from '../changes/index.ts';
import type { ObservatoryService } from '../observatory/index.ts';
import { createAsking } from './asking.ts';
import { createDeciding } from './deciding.ts';

export interface RequestParts {
  readonly database: Database;
  readonly changes: ChangeService;
  readonly observatory: ObservatoryService;
}

export type RequestService = ReturnType<typeof createRequestService>;

export const createRequestService = (parts: RequestParts) => ({ ...createAsking(parts), ...createDeciding(parts) });
