export { nightRoutes } from './routes.ts';
export type { SurveyedRig } from './rig-planner.ts';
export type { NightService } from './service.ts';
export { createNightService } from './service.ts';
export { chanceOf } from './reasons.ts';
export { recordNight } from './record-night.ts';
