export { peopleRoutes } from './routes.ts';
export { createPeopleService } from './service.ts';
export { newToken, openLink, spendLink } from './links.ts';
