export { accountRoutes } from './routes.ts';
export { createAccountService, hashPassword } from './service.ts';
