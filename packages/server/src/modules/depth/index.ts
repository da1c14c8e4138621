export { depthRoutes } from './routes.ts';
export { createDepthService } from './service.ts';
