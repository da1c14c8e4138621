export { peopleRoutes } from './routes.ts';
export { createPeopleService } from './service.ts';
