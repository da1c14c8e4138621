export * from './check-night.ts';
export * from './check-season.ts';
export * from './check-sky.ts';
