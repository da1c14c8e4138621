// Holds the core's astronomy against a folder of reference files: npm run accuracy [-- FOLDER]
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { accuracyReport, reportTable } from '../packages/core/accuracy/report.ts';

const shipped = join(dirname(fileURLToPath(import.meta.url)), '../packages/core/fixtures/reference');
const folder = process.argv[2] ? resolve(process.argv[2]) : shipped;
const report = accuracyReport(folder);
console.log(reportTable(report));
if (report.unjudged.length > 0) console.log(`\nNot judged yet: ${report.unjudged.join(', ')}`);
if (report.verdicts.length === 0) {
  console.error(`\nNo reference file in ${folder}`);
  process.exit(2);
}
const past = report.verdicts.filter((verdict) => !verdict.passed);
console.log(
  past.length === 0 ? '\nEvery quantity is within its limit.' : `\n${past.length} quantities are past their limit.`,
);
process.exit(past.length === 0 ? 0 : 1);
