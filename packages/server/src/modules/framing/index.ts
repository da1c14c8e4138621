export { framingRoutes } from './routes.ts';
export { createFramingService } from './service.ts';
