export { copyGoals } from './copy.ts';
export { editableProject } from './editable.ts';
export { createGoalSetService } from './goal-sets.ts';
export { insertPanel, insertPointing, panelsOf } from './repository.ts';
export { projectRoutes } from './routes.ts';
export { createProjectService } from './service.ts';
export { readPosition } from './typed-position.ts';
