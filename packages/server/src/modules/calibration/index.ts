export { calibrationRoutes } from './routes.ts';
export { createCalibrationService } from './service.ts';
export type { FittingSet } from './fitting.ts';
export { fittingCalibration, fittingSets } from './fitting.ts';
export { areGuideDarksDue } from './guide-darks.ts';
export { calibrationOwed, calibrationToTake } from './owed-after.ts';
