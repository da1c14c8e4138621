export { sizeOf } from './frame-files.ts';
export { frameRoutes } from './routes.ts';
export type { FrameService } from './service.ts';
export { createFrameService } from './service.ts';
