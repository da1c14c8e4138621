export { peopleRoutes } from './routes.ts';
export { createPeopleService } from './service.ts';
export { hashOfToken, newToken, openLink, spendLink } from './links.ts';
