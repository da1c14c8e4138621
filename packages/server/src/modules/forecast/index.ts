export { createDuskCalls } from './dusk-call.ts';
export { forecastRoutes } from './routes.ts';
export { createForecastService } from './service.ts';
