import { describe, expect, it } from '@jest/globals';
import type { Standing, StandingRow } from '@meridiem/contract';
import { behindWords, multiplierReasons, timesWords } from '../../words/shares.ts';
import { advisedSwaps, monthRows, rigStandings, sharesWords, spanWords, typedShare } from './view-model.ts';

const row = (memberId: string, skyClass: 'dark' | 'bright', fields: Partial<StandingRow> = {}): StandingRow => ({
  memberId,
  memberName: memberId.toUpperCase(),
  rigId: 'wide',
  skyClass,
  share: 0.5,
  entitledHours: 0,
  givenHours: 0,
  lapsedHours: 0,
  chargedHours: 0,
  multiplier: 1,
  ...fields,
});
const standing: Standing = {
  rows: [
    row('ana', 'dark', { entitledHours: 10, chargedHours: 14 }),
    row('ana', 'bright', { entitledHours: 8, chargedHours: 2 }),
    row('ben', 'dark', { entitledHours: 12, chargedHours: 6 }),
    row('ben', 'bright', { entitledHours: 1, chargedHours: 4 }),
    row('cy', 'dark'),
    row('cy', 'bright'),
  ],
  fairness: 0.5,
  carryOverNights: 20,
  counted: [
    {
      rigId: 'wide',
      rigName: 'Wide',
      openNights: 12,
      firstNight: '2026-10-02',
      lastNight: '2026-11-26',
      nightsToClose: 2,
      lostHours: 31.25,
    },
  ],
  months: [
    { month: '2026-10', memberId: 'ana', entitledHours: 9, chargedHours: 8 },
    { month: '2026-11', memberId: 'ben', entitledHours: 3, chargedHours: 1 },
  ],
  periodInForceId: 'p1',
  periods: [{ id: 'p1', firstNight: '2026-01-01', lastNight: null, allotments: [] }],
  gifts: [],
  swaps: [],
};

describe('the standing of a rig', () => {
  const [rig] = rigStandings(standing);

  it('puts first who is furthest behind, and names those without hours apart', () => {
    expect(rig.members.map(({ memberId }) => memberId)).toEqual(['ben', 'ana']);
    expect(rig.idle).toEqual(['CY']);
    expect(rig.members[0].rows.map(({ skyClass }) => skyClass)).toEqual(['dark', 'bright']);
  });

  it('says which nights are counted, what was lost and what waits to be closed', () => {
    expect(rig.remark).toBe(
      '12 open nights from Fri 2 Oct to Thu 26 Nov; 31.3 h since then went to weather, faults and visits, which are charged to no one. 2 nights with exposures are not closed yet and not counted.',
    );
    const none = { ...standing, counted: [{ ...standing.counted[0], openNights: 0, nightsToClose: 0 }] };
    expect(rigStandings(none)[0].remark).toBe('No closed night had hours that anybody could use.');
  });
});

describe('hours in words', () => {
  it('are behind, ahead or even', () => {
    expect(behindWords(row('ana', 'dark', { entitledHours: 10, chargedHours: 5.8 }))).toBe('4.2 h behind');
    expect(behindWords(row('ana', 'dark', { entitledHours: 5, givenHours: -1, chargedHours: 5 }))).toBe('1.0 h ahead');
    expect(behindWords(row('ana', 'dark', { entitledHours: 5, chargedHours: 5.01 }))).toBe('even');
    expect(timesWords(1.3)).toBe('1.30 ×');
  });

  it('say why an hour counts what it counts', () => {
    const [first, second] = multiplierReasons(
      row('ana', 'bright', { entitledHours: 10, givenHours: 2, chargedHours: 4, multiplier: 1.25 }),
      0.5,
    );
    expect(first).toMatch(
      /entitled to 10\.0 h of moonlit sky .*, got 2\.0 h from others, and was charged 4\.0 h: 8\.0 h behind/,
    );
    expect(second).toMatch(/1\.25 ×, with fairness set to 50 %/);
  });
});

describe('shares', () => {
  it('are said with the nights they hold for', () => {
    expect(sharesWords(standing)).toBe('Shares agreed from 1 Jan 2026 on.');
    expect(sharesWords({ ...standing, periodInForceId: null })).toMatch(/every member has the same share/);
    expect(spanWords({ firstNight: '2026-01-01', lastNight: '2026-03-31' })).toBe('from 1 Jan 2026 to 31 Mar 2026');
  });

  it('are typed as percentages', () => {
    expect(typedShare('30')).toBe(0.3);
    expect(typedShare('12,5 %')).toBe(0.125);
    for (const text of ['', 'x', '-1', '101']) expect(typedShare(text)).toBeNull();
  });
});

describe('months and swaps', () => {
  it('have a cell for every member, empty ones too', () => {
    expect(monthRows(standing, ['ana', 'ben'])).toEqual([
      { month: '2026-10', cells: [standing.months[0], { memberId: 'ben', entitledHours: 0, chargedHours: 0 }] },
      { month: '2026-11', cells: [{ memberId: 'ana', entitledHours: 0, chargedHours: 0 }, standing.months[1]] },
    ]);
  });

  it('advise a swap where one lacks moonless and the other moonlit hours', () => {
    expect(advisedSwaps(standing)).toEqual([
      { rigId: 'wide', givesBrightId: 'ana', givesDarkId: 'ben', brightHours: 3, darkHours: 4 },
    ]);
  });
});
