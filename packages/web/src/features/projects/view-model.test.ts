import { describe, expect, it } from '@jest/globals';
import type { ProjectRow, Reason } from '@meridiem/contract';
import { heldBackWords, narrowedProjects, orderedProjects, stateWords, tonightWords } from './view-model.ts';

const reason: Reason = {
  code: 'TARGET_TOO_LOW',
  limit: 30,
  best: 21.4,
  worst: null,
  origin: 'project',
  rival: null,
  interval: null,
};
const row = (changes: Partial<ProjectRow> = {}): ProjectRow =>
  ({
    state: 'granted',
    resting: false,
    complete: false,
    share: 0.5,
    ownerName: 'Ruan Aldous',
    tonight: { planned: 0, usableHours: 0, reason: null },
    ...changes,
  }) as ProjectRow;
const tonight = (changes: Partial<ProjectRow['tonight']>): ProjectRow['tonight'] => ({ ...row().tonight, ...changes });

describe('a project’s state', () => {
  it('is complete or resting before what it is formally', () => {
    expect(stateWords(row())).toBe('granted');
    expect(stateWords(row({ resting: true }))).toBe('granted, resting');
    expect(stateWords(row({ resting: true, complete: true }))).toBe('complete');
  });
});

describe('tonight in a few words', () => {
  it('never calls nothing tonight finished', () => {
    expect(tonightWords(row({ tonight: tonight({ planned: 12, reason }) }))).toBe('12 exposures planned');
    expect(tonightWords(row({ tonight: tonight({ reason }) }))).toBe('too low: 21.4° at best');
    expect(tonightWords(row({ tonight: tonight({ usableHours: 3.26 }) }))).toBe('usable for 3.3 h');
    expect(tonightWords(row())).toBe('no goals yet');
    expect(tonightWords(row({ complete: true }))).toBe('nothing more wanted');
    expect(tonightWords(row({ state: 'retired', tonight: tonight({ planned: 3 }) }))).toBe('');
  });
});

describe('project rows in order', () => {
  const rows = [
    row({ name: 'a', share: 0.2, ownerName: 'Yaw', tonight: tonight({ usableHours: 8 }) }),
    row({ name: 'b', share: 0.9, ownerName: 'Bea', tonight: tonight({ planned: 1 }) }),
    row({ name: 'c', share: 0.2, ownerName: 'Mia', tonight: tonight({ usableHours: 2 }) }),
  ];
  const names = (order: Parameters<typeof orderedProjects>[1]): string =>
    orderedProjects(rows, order)
      .map(({ name }) => name)
      .join('');
  it('keep the server’s where they are equal, and leave what they were given alone', () => {
    expect(names('state')).toBe('abc');
    expect(names('share')).toBe('bac');
    expect(names('tonight')).toBe('bac');
    expect(names('owner')).toBe('bca');
    expect(rows.map(({ name }) => name).join('')).toBe('abc');
  });
});

describe('a list narrowed', () => {
  const tally = (undecided: number) => ({ tally: { undecided } }) as ProjectRow['filters'][number];
  const projects = [
    row({ id: 'mine', ownerId: 'me', filters: [tally(0)], heldBackBy: null, tonight: tonight({ planned: 3 }) }),
    row({ id: 'draft', ownerId: 'her', state: 'draft', filters: [tally(2)], heldBackBy: null }),
    row({ id: 'mosaic', ownerId: 'her', filters: [], heldBackBy: 'Haze, panel 3' }),
    row({ id: 'done', ownerId: 'her', complete: true, filters: [], heldBackBy: 'Done, panel 1' }),
  ];
  it.each([
    ['all', ['mine', 'draft', 'mosaic', 'done']],
    ['mine', ['mine']],
    ['granted', ['mine', 'mosaic', 'done']],
    ['undecided', ['draft']],
    ['behind', ['mosaic']],
    ['nothing', ['mosaic']],
  ] as const)('to %s', (to, expected) =>
    expect(narrowedProjects(projects, to, 'me').map(({ id }) => id)).toEqual(expected),
  );

  it('says which panel holds a mosaic back', () => {
    expect(heldBackWords({ name: 'Haze', heldBackBy: 'Haze, panel 3', complete: false })).toBe('panel 3 holds it back');
    expect(heldBackWords({ name: 'Haze', heldBackBy: 'Haze, panel 3', complete: true })).toBe('');
    expect(heldBackWords({ name: 'Haze', heldBackBy: null, complete: false })).toBe('');
  });
});
