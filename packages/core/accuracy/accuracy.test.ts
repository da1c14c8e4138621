import { describe, expect, it } from '@jest/globals';
import { execFileSync, spawnSync } from 'node:child_process';
import { cpSync, mkdtempSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { accuracyReport } from './report.ts';

const core = join(dirname(fileURLToPath(import.meta.url)), '..');
const root = join(core, '../..');

describe('accuracy against the reference', () => {
  const { verdicts } = accuracyReport(join(core, 'fixtures/reference'));

  it.each(verdicts.map((verdict) => [`${verdict.file}: ${verdict.quantity}`, verdict] as const))(
    '%s is within its limit',
    (_, verdict) => {
      expect(verdict.rows).toBeGreaterThanOrEqual(30);
      expect(verdict.worst).toBeLessThanOrEqual(verdict.limit);
      expect(verdict.passed).toBe(true);
    },
  );
});

/** A copy of the core with one constant changed by 1 %, judged by the same command. */
function exitCodeWith(file: string, constant: string, changed: string): number | null {
  const copy = mkdtempSync(join(tmpdir(), 'meridiem-core-'));
  try {
    for (const part of [
      'packages/core/src',
      'packages/core/accuracy',
      'packages/core/fixtures',
      'packages/core/package.json',
      'scripts/accuracy.ts',
      'package.json',
    ])
      cpSync(join(root, part), join(copy, part), { recursive: true });
    symlinkSync(join(root, 'node_modules'), join(copy, 'node_modules'));
    const path = join(copy, 'packages/core/src', file);
    const text = readFileSync(path, 'utf8');
    expect(text).toContain(constant);
    writeFileSync(path, text.replace(constant, changed));
    return spawnSync('node', ['--conditions', '@meridiem/source', '--import', 'tsx', 'scripts/accuracy.ts'], {
      cwd: copy,
    }).status;
  } finally {
    rmSync(copy, { recursive: true, force: true });
  }
}

describe('the accuracy command', () => {
  it('ends with 0 on the shipped files', () => {
    const words = execFileSync('node', ['--conditions', '@meridiem/source', '--import', 'tsx', 'scripts/accuracy.ts'], {
      cwd: root,
      encoding: 'utf8',
    });
    expect(words).toContain('Every quantity is within its limit');
  });

  it.each([
    ['precession', 'sky/frame-of-date.ts', '2306.083227', '2329.144059'],
    ['the moonlight slope', 'sky/moonlight.ts', '0.026 * alpha', '0.02626 * alpha'],
    ['the airmass denominator', 'sky/airmass.ts', '244 /', '246.44 /'],
    ['the rise and set altitude', 'sky/sun-moon.ts', '-0.833', '-0.84133'],
  ])(
    'ends with 1 when %s is off by 1 %%',
    (_, file, constant, changed) => {
      expect(exitCodeWith(file, constant, changed)).toBe(1);
    },
    60_000,
  );
});
