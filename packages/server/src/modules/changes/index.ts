export type { EditableTable } from './editable-table.ts';
export { editableTable } from './editable-table.ts';
export { editFields } from './edit-fields.ts';
export { changeRoutes } from './routes.ts';
export type { ChangeService, NewChange, StoredChange } from './service.ts';
export { createChangeService } from './service.ts';
export { takeBackSetting } from './take-back-setting.ts';
