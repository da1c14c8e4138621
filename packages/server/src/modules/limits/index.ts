export { limitRoutes } from './routes.ts';
export { createLimitService, setLimitValue } from './service.ts';
