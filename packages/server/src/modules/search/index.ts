export { searchRoutes } from './routes.ts';
export { createSearchService } from './service.ts';
