export { ledgerRoutes } from './routes.ts';
export type { LedgerService } from './service.ts';
export { createLedgerService } from './service.ts';
export { judgeGoals } from './judge-goals.ts';
export { createProgressService } from './progress.ts';
export { createRuleService } from './rules.ts';
export { plannedSkiesOf, skiesOf } from './exposure-sky.ts';
export { conditionsOf } from './list-repository.ts';
