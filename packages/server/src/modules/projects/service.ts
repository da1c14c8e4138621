// Projects, panels and goals: read, begun, changed.
import type { Database } from '../../database/connection.ts';
import type { ChangeService } from '../changes/index.ts';
import type { PlanningService } from '../planning/index.ts';
import { createProjectEditing } from './editing.ts';
import { createGoals } from './goals.ts';
import { createProjectReading } from './reading.ts';

export interface ProjectServiceParts {
  readonly database: Database;
  readonly changes: ChangeService;
  readonly planning: PlanningService;
}

export type ProjectService = ReturnType<typeof createProjectService>;

export const createProjectService = (parts: ProjectServiceParts) => ({
  ...createProjectReading(parts),
  ...createProjectEditing(parts),
  ...createGoals(parts),
});
