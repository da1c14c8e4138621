export { peopleRoutes } from './routes.ts';
export { createPeopleService } from './service.ts';
export { hashOfToken, makeFirstLink, newToken, openLink, spendLink } from './links.ts';
export { importerOf, memberNow, hasOtherCoordinator } from './repository.ts';
