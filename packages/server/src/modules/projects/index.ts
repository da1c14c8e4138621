export { copyGoals } from './copy.ts';
export { editableProject } from './editable.ts';
export { insertPanel, insertPointing, panelsOf } from './repository.ts';
export { projectRoutes } from './routes.ts';
export { createProjectService } from './service.ts';
export { readPosition } from './typed-position.ts';
