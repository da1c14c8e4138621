// Benchmarks, each paired against something in the same run: npm run bench
import { benchCatalogueSearch } from './catalogue-search.ts';
import { benchFinder } from './finder.ts';
import { benchFit } from './fit.ts';
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
  ...(await benchCatalogueSearch(2000)),
  ...benchFinder(),
  ...benchFit(),
];
console.log(lines.join('\n'));
