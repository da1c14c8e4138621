import { describe, expect, it } from '@jest/globals';
import { COUNTING_OPTIONS, filterOptionsOf, PANEL_OPTIONS, stateOptions } from './project-settings.ts';

const values = (options: readonly { value: string }[]): string[] => options.map(({ value }) => value);

describe('settings of a project', () => {
  it('leave granting and queueing to a coordinator, and keep the state in force', () => {
    expect(values(stateOptions({ state: 'draft' }, 'member'))).toEqual(['draft', 'proposed', 'retired']);
    expect(values(stateOptions({ state: 'granted' }, 'member'))).toContain('granted');
    expect(values(stateOptions({ state: 'draft' }, 'coordinator'))).toEqual(
      expect.arrayContaining(['granted', 'queued']),
    );
  });
  it('keep a group of filters that nobody offers', () => {
    expect(values(filterOptionsOf({ filterGroup: 0 }))).toEqual(['0', '1', '2', '3', '5', '10']);
    expect(values(filterOptionsOf({ filterGroup: 4 }))).toEqual(['0', '1', '2', '3', '4', '5', '10']);
    expect(filterOptionsOf({ filterGroup: 2 })[2].words).toBe('filters alternating, 2 of each, a dither a round');
  });
  it('say each thing once', () => {
    for (const options of [COUNTING_OPTIONS, PANEL_OPTIONS])
      expect(new Set(options.map(({ words }) => words)).size).toBe(options.length);
  });
});
