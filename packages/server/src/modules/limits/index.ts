export { limitRoutes } from './routes.ts';
export { createLimitService, refuseOutside, setLimitValue } from './service.ts';
