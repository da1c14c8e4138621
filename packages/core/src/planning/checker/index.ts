export * from './check-night.ts';
export * from './check-sky.ts';
