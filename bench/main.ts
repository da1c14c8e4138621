// Benchmarks, each paired against something in the same run: npm run bench
import { benchCatalogueSearch } from './catalogue-search.ts';
import { benchFinder } from './finder.ts';
import { benchFit } from './fit.ts';
import { benchNightTables } from './night-tables.ts';
import { benchSafeOrder } from './safe-order.ts';
import { benchHalfNight, benchOneNight, benchThirtyNights } from './one-night.ts';

const lines = [
  '| one night, seeds from 1 on | time | of the proven bound |',
  '| --- | --- | --- |',
  ...benchOneNight(40, 120_000),
  ...benchThirtyNights(40),
  ...benchOneNight(350, 120_000),
  ...benchHalfNight(40),
  '',
  '| nights that may end early | expected more by the safe order | less in a night that lasts | time |',
  '| --- | --- | --- | --- |',
  ...[0.1, 0.3].map((chance) => benchSafeOrder(40, chance)),
  benchSafeOrder(350, 0.2),
  '',
  '| work | time | against | ratio |',
  '| --- | --- | --- | --- |',
  ...benchNightTables(),
  ...(await benchCatalogueSearch(2000)),
  ...benchFinder(),
  ...benchFit(),
];
console.log(lines.join('\n'));
