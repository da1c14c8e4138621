import { expect, it } from '@jest/globals';
import type { ProjectParts } from './present.ts';
import { heldBackBy } from './present.ts';

const parts = (done: readonly number[]): ProjectParts =>
  ({
    project: { counting: 'all', judging: false, hasRules: false },
    panels: done.map((_, i) => ({ id: `p${i}`, name: `Haze, panel ${i + 1}` })),
    goals: done.map((accepted, i) => ({ panelId: `p${i}`, enabled: true, wanted: 100, accepted, undecided: 0, rejected: 0 })), // prettier-ignore
  }) as unknown as ProjectParts;

it('a mosaic is held back by the one panel that is behind all others', () => {
  expect(heldBackBy(parts([50, 20, 60]))).toBe('Haze, panel 2');
  expect(heldBackBy(parts([20, 20, 60]))).toBeNull();
  expect(heldBackBy(parts([100, 100]))).toBeNull();
  expect(heldBackBy(parts([10]))).toBeNull();
  expect(heldBackBy(parts([]))).toBeNull();
});
