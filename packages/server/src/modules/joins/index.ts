export { joinedGoalsOf, withPartners } from './partners.ts';
export { joinRoutes } from './routes.ts';
export { createJoinService } from './service.ts';
