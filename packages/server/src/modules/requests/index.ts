export { requestRoutes } from './routes.ts';
export { createRequestService } from './service.ts';
