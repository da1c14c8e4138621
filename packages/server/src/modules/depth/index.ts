export { depthRoutes } from './routes.ts';
export { createDepthWishes } from './wishes.ts';
export { createDepthService } from './service.ts';
