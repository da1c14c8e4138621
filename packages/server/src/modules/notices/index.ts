export { noticeRoutes } from './routes.ts';
export { createNoticeService, notify } from './service.ts';
