export { decoyHash, hashPassword, passwordFits, requireUncommonPassword } from './passwords.ts';
export { pruneTries, showPassword } from './repository.ts';
export { accountRoutes } from './routes.ts';
export type { AccountService } from './service.ts';
export { createAccountService, FORGET_TRIES_MS } from './service.ts';
