export { foundingRoutes } from './routes.ts';
export { hasObservatory } from './repository.ts';
export { createFoundingService, makeFoundingLink } from './service.ts';
