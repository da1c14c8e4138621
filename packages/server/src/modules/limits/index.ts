export { limitRoutes } from './routes.ts';
export { createLimitService } from './service.ts';
