export { timeAccountRoutes } from './routes.ts';
export { createTimeAccountService } from './service.ts';
