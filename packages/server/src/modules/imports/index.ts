export { importRoutes } from './routes.ts';
export type { ImportService } from './service.ts';
export { createImportService } from './service.ts';
