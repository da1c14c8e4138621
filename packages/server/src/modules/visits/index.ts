export { visitRoutes } from './routes.ts';
export type { PlannedWork } from './repository.ts';
export { plannedWork } from './repository.ts';
export { createVisitService } from './service.ts';
