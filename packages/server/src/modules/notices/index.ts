export { noticeRoutes } from './routes.ts';
export { createMessageService } from './channels.ts';
export { createMessenger } from './messenger.ts';
export { createOutside } from './outside.ts';
export { peopleAs } from './repository.ts';
export { createNoticeService, notify } from './service.ts';
