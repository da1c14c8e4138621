export * from './clouds.ts';
export * from './forecast.ts';
export * from './simulated-exposure.ts';
export * from './survey.ts';
export * from './observatory/routes.ts';
export * from './observatory/rig-facts.ts';
export * from './observatory/faults.ts';
export * from './observatory/truth.ts';
export { weatherAt } from './observatory/weather.ts';
