export { catalogueRoutes } from './routes.ts';
export { createCatalogueService, loadCatalogue } from './service.ts';
