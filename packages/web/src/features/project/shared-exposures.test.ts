import { describe, expect, it } from '@jest/globals';
import type { ProjectJoin } from '@meridiem/contract';
import { candidateWords, joinWords, nameOfCandidate, typedShare } from './shared-exposures.ts';

const join = (fields: Partial<ProjectJoin>): ProjectJoin => ({
  id: 'j',
  state: 'accepted',
  otherProjectId: 'p',
  otherName: 'Veil in colour',
  otherOwnerName: 'Ruan Aldous',
  ownShare: 0.25,
  isOffered: true,
  sinceUtcMs: 0,
  untilUtcMs: null,
  exposures: 12,
  goals: 2,
  areBothGranted: true,
  ...fields,
});

describe('sharing in words', () => {
  it('says what is shared and what it costs', () => {
    expect(joinWords(join({}))).toBe(
      'Shares exposures with Veil in colour (Ruan Aldous): 12 exposures so far, 2 goals from now on; of each shared exposure this project is charged 25 %.',
    );
    expect(joinWords(join({ areBothGranted: false }))).toMatch(/2 goals once both projects are granted/);
    expect(joinWords(join({ state: 'ended', exposures: 1 }))).toMatch(/1 exposure, credited to both for good/);
  });

  it('tells an offer made from one received', () => {
    expect(joinWords(join({ state: 'open' }))).toMatch(/Not answered yet/);
    expect(joinWords(join({ state: 'open', isOffered: false }))).toMatch(/offers to share exposures for 2 goals/);
  });

  it('names no private project', () => {
    expect(joinWords(join({ otherName: null, otherOwnerName: null }))).toMatch(/with a private project:/);
    expect(nameOfCandidate({ name: null, ownerName: null })).toBe('A private project');
  });

  it('says why a candidate can’t share', () => {
    expect(candidateWords({ coverage: 0.97, goals: 1 })).toMatch(/97 % of the same field and wants .* for 1 goal$/);
    expect(candidateWords({ coverage: 0.95, goals: 0 })).toMatch(/no goal asks for the same/);
    expect(candidateWords({ coverage: 0.6, goals: 0 })).toMatch(/from 90 %/);
  });

  it.each([
    ['50', 0.5],
    ['33 %', 0.33],
    ['12,5', 0.125],
    ['4', null],
    ['96', null],
    ['', null],
    ['half', null],
  ])('reads “%s” as %p', (typed, share) =>
    // prettier-ignore
    expect(typedShare(typed as string)).toBe(share),
  );
});
