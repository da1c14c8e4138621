// Visits to the site: planned with their work, made, and confirmed.
import type { Database } from '../../database/connection.ts';
import type { ChangeService } from '../changes/index.ts';
import type { ObservatoryService } from '../observatory/index.ts';
import { createVisitPlanning } from './planning.ts';
import { createSettling } from './settling.ts';

export interface VisitParts {
  readonly database: Database;
  readonly changes: ChangeService;
  readonly observatory: ObservatoryService;
}

export type VisitService = ReturnType<typeof createVisitService>;

export const createVisitService = (parts: VisitParts) => ({
  ...createVisitPlanning(parts),
  ...createSettling(parts),
});
