export { observatoryRoutes } from './routes.ts';
export type { ObservatoryService, RigRecord, SiteRecord } from './service.ts';
export { createObservatoryService } from './service.ts';
export { rigsOf, siteOf } from './repository.ts';
export { changeSlots, measureAngle } from './rigs-repository.ts';
