export { calibrationRoutes } from './routes.ts';
export { createCalibrationService } from './service.ts';
