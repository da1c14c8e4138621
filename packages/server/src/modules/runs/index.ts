export { runRoutes } from './routes.ts';
export { createRunService } from './service.ts';
export { tellAfterCopy } from './files-told.ts';
export { currentRunOf } from './current-run.ts';
export { nightRecordOf } from './night-record.ts';
