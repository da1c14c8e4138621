export { calendarRoutes } from './routes.ts';
export { createCalendarService } from './service.ts';
