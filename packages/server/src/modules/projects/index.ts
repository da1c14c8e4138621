export { copyGoals } from './copy-repository.ts';
export { editableProject } from './editable.ts';
export { createGoalSetService } from './goal-sets.ts';
export { appendGoals } from './goals-repository.ts';
export { insertPanel, insertPointing, insertProject, panelsOf } from './repository.ts';
export { projectRoutes } from './routes.ts';
export { createProjectService } from './service.ts';
export { readPosition } from './typed-position.ts';
