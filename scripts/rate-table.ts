// The table of signal rates by filter and sky, as Markdown: npm run rate-table
import { RATE_SKIES, rateTable } from '../packages/core/accuracy/rate-table.ts';

const rows = rateTable();
console.log(['filter', ...RATE_SKIES.map((sky) => sky.name)].join(' | ').replace(/^/, '| ').concat(' |'));
console.log(`| --- |${' ---: |'.repeat(RATE_SKIES.length)}`);
for (const { letter, rates } of rows)
  console.log(`| ${letter} | ${rates.map((rate) => rate.toFixed(3)).join(' | ')} |`);
