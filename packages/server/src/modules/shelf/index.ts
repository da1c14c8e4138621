export { shelfRoutes } from './routes.ts';
export { createShelfService } from './service.ts';
