export { shareRoutes } from './routes.ts';
export type { ShareService } from './service.ts';
export { createShareService } from './service.ts';
export { seasonShares, standingRows } from './standing.ts';
export { entitle } from './entitling.ts';
export { grantedHours } from './repository.ts';
export type { GrantedHours } from './repository.ts';
export { chargeWeightsOf } from './charge-weights.ts';
