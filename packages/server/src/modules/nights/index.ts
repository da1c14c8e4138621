export { nightRoutes } from './routes.ts';
export type { NightService, SurveyedRig } from './service.ts';
export { createNightService } from './service.ts';
export { chanceOf } from './reasons.ts';
export { recordNight } from './record-night.ts';
