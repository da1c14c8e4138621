// Prints plans of three realistic nights as JSON: run in two processes, they must be the same to the last byte.
import { nightInstance } from '../../../bench/instances.ts';
import { planNight } from '../src/planning/night/plan-night.ts';

const plans = [1, 2, 3].map(
  (seed) => planNight(nightInstance({ seed, goals: 16, night: 20 * seed }), { seed: 7, iterations: 800 }).plan,
);
process.stdout.write(JSON.stringify(plans));
