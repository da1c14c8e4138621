export { createApplying, importWork } from './applying.ts';
export { applyParts } from './alone.ts';
export { importRoutes } from './routes.ts';
export type { ImportService } from './service.ts';
export { createImportService } from './service.ts';
