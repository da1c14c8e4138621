export { calibrationRoutes } from './routes.ts';
export { createCalibrationService } from './service.ts';
export { calibrationOwed } from './owed-after.ts';
