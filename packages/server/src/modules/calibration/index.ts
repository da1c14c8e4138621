export { calibrationRoutes } from './routes.ts';
export { createCalibrationService } from './service.ts';
export { fittingCalibration } from './fitting.ts';
export { areGuideDarksDue } from './guide-darks.ts';
export { calibrationOwed, calibrationToTake } from './owed-after.ts';
