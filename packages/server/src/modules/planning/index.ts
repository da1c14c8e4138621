export { planningRoutes } from './routes.ts';
export type { SurveyedRig } from './rig-planner.ts';
export type { PlanningService } from './service.ts';
export { createPlanningService } from './service.ts';
export { chanceOf } from './reasons.ts';
export { usableWorkOf } from './usable-work.ts';
export { goalRowsOf, settingsOf } from './goals-repository.ts';
export { exposuresLeft } from './request.ts';
export type { GoalRow } from './goals-repository.ts';
