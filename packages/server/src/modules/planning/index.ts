export { planningRoutes } from './routes.ts';
export type { SurveyedRig } from './rig-planner.ts';
export type { PlanningService } from './service.ts';
export { createPlanningService } from './service.ts';
export { chanceOf } from './reasons.ts';
