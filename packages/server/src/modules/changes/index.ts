export { changeRoutes } from './routes.ts';
export type { ChangeService, NewChange } from './service.ts';
export { createChangeService } from './service.ts';
export { editFields } from './edit-fields.ts';
