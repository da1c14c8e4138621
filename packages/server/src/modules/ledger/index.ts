export { ledgerRoutes } from './routes.ts';
export { createLedgerService } from './service.ts';
