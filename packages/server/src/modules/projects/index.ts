export { projectRoutes } from './routes.ts';
export { createProjectService } from './service.ts';
