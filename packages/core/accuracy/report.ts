// Runs every judge over a folder of reference files and words the outcome as a table.
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { referenceRows } from './csv.ts';
import { JUDGES } from './judges.ts';
import type { Verdict } from './tally.ts';

export interface AccuracyReport {
  readonly verdicts: readonly Verdict[];
  /** Reference files present that no judge reads yet. */
  readonly unjudged: readonly string[];
}

/** Judges the files of a folder that are present. */
export function accuracyReport(folder: string): AccuracyReport {
  const judged = Object.keys(JUDGES).filter((file) => existsSync(join(folder, file)));
  return {
    verdicts: judged.flatMap((file) => JUDGES[file](referenceRows(readFileSync(join(folder, file), 'utf8')))),
    unjudged: readdirSync(folder).filter((file) => file.endsWith('.csv') && !(file in JUDGES)),
  };
}

/** A report as a Markdown table. */
export function reportTable({ verdicts }: AccuracyReport): string {
  const head = ['file', 'quantity', 'rows', 'median', '95 %', 'worst', 'limit', 'left out', ''];
  const rows = verdicts.map((v) => [
    v.file,
    v.quantity,
    String(v.rows),
    figure(v.median),
    figure(v.p95),
    figure(v.worst),
    `${v.limit}${v.unit ? ` ${v.unit}` : ''}${v.medianLimit === null ? '' : ` (median ${v.medianLimit})`}`,
    v.leftOut === 0 ? '0' : `${v.leftOut}: ${v.leftOutRule}`,
    v.passed ? 'within' : 'PAST THE LIMIT',
  ]);
  return [head, head.map(() => '---'), ...rows].map((cells) => `| ${cells.join(' | ')} |`).join('\n');
}

const figure = (value: number): string =>
  value === 0 ? '0' : Math.abs(value) < 0.001 ? value.toExponential(1) : value.toFixed(3);
