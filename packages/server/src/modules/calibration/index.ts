export { calibrationRoutes } from './routes.ts';
export { createCalibrationService } from './service.ts';
export { calibrationOwed, calibrationToTake } from './owed-after.ts';
