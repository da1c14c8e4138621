export { accountRoutes } from './routes.ts';
export type { AccountService } from './service.ts';
export { createAccountService, hashPassword, passwordFits } from './service.ts';
