export { keptDarkness, keptNightSky } from './kept-sky.ts';
export { nightNamed } from './night-named.ts';
export { recordNight } from './record-night.ts';
export { nightRoutes } from './routes.ts';
export { createNightService } from './service.ts';
