// Benchmarks, each paired against something in the same run: npm run bench
import { benchNightTables } from './night-tables.ts';
import { benchOneNight } from './one-night.ts';

const lines = [
  '| work | time | of the proven bound | simplest greedy |',
  '| --- | --- | --- | --- |',
  ...benchOneNight(40, 30),
  '',
  '| work | time | against | ratio |',
  '| --- | --- | --- | --- |',
  ...benchNightTables(),
];
console.log(lines.join('\n'));
