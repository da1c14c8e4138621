export { exportRoutes } from './routes.ts';
export { createExportService } from './service.ts';
