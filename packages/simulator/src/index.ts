export * from './clouds.ts';
export * from './forecast.ts';
export * from './simulated-exposure.ts';
export * from './survey.ts';
