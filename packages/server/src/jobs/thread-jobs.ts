// Everything that threads compute: one pool for all of it.
export * from './frame-job.ts';
export { default } from './plan-night.ts';
export * from './plan-night.ts';
