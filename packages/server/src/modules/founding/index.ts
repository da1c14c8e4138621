export { foundingRoutes } from './routes.ts';
export { createFoundingService, makeFoundingLink } from './service.ts';
