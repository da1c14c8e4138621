import { describe, expect, it } from '@jest/globals';
import type { Season, SeasonNight, SeasonProject } from '@meridiem/contract';
import { dateMarks, provenWords, seasonMembers, seasonRigs, unfinished } from './view-model.ts';

const project: SeasonProject = {
  projectId: 'p1',
  name: 'NGC 1360 halo',
  ownerName: 'Mirela Costin',
  rigId: 'r1',
  deadline: null,
  hangsOnVisit: null,
  leftHours: 10,
  expectedHours: 8,
  finishedShare: 1,
  early: '2026-12-08',
  middle: '2026-12-12',
  late: '2026-12-20',
  isOpenEnded: false,
};
const night = (nightDate: string, rigId = 'r1'): SeasonNight => ({
  nightDate,
  rigId,
  odds: 0.6,
  startUtcMs: 0,
  endUtcMs: 36_000_000,
  darkHours: 7,
  moonlessHours: 3,
  cells: [],
});

describe('the season', () => {
  const cell = { projectId: 'p1', fromUtcMs: 9_000_000, toUtcMs: 18_000_000, exposures: 30, exposingSec: 9000, meanRate: 0.8, filters: [] }; // prettier-ignore
  const season: Season = {
    nights: [night('2026-12-08'), { ...night('2026-12-09'), cells: [cell, { ...cell, projectId: null }] }, night('2026-12-08', 'r2')], // prettier-ignore
    projects: [{ ...project, projectId: 'p2', middle: null, late: null, early: null, finishedShare: 0 }, project],
    value: 91,
    bound: 100,
    draws: 200,
    fairness: null,
  };

  it('puts first what ends first, cells where they lie in their night, and others’ private work apart', () => {
    const [first, second] = seasonRigs(season);
    expect(first.rows.map((row) => row.project.projectId)).toEqual(['p1', 'p2']);
    expect(first.rows[0].places).toMatchObject([{ nightDate: '2026-12-09', from: 1.25, length: 0.25 }]);
    expect(first.reserved).toHaveLength(1);
    expect(second).toMatchObject({ rigId: 'r2', rows: [] });
  });

  it('stands by member as well: everybody’s projects of all rigs, the first to end first, and nothing reserved', () => {
    const others = [
      { ...project, projectId: 'p3', ownerName: 'Ana', rigId: 'r2', middle: '2026-12-20' },
      { ...project, projectId: 'p4', ownerName: 'Ana', middle: '2026-12-09' },
    ];
    const members = seasonMembers({ ...season, projects: [...season.projects, ...others] });
    expect(members.map(({ rigId, rows }) => [rigId, rows.map((row) => row.project.projectId)])).toEqual([
      ['Ana', ['p4', 'p3']],
      ['Mirela Costin', ['p1', 'p2']],
    ]);
    expect(members[1].rows[0].places).toEqual(seasonRigs(season)[0].rows[0].places);
    expect(members.every(({ reserved }) => reserved.length === 0)).toBe(true);
  });

  it('names what it hardly ends, and how much of the best is proven', () => {
    expect(unfinished(season).map(({ projectId }) => projectId)).toEqual(['p2']);
    expect(provenWords(season)).toBe('At least 91 % of the best possible for these odds; proven.');
    expect(provenWords({ ...season, bound: null })).toBeNull();
  });

  it('marks months and weeks, no two on top of one another', () => {
    const nights = Array.from({ length: 20 }, (_, i) => night(`2026-11-${28 + i}`)).map((one, i) => ({ ...one, nightDate: new Date(Date.UTC(2026, 10, 28 + i)).toISOString().slice(0, 10) })); // prettier-ignore
    expect(dateMarks(nights)).toEqual([
      { night: 3, words: '1 Dec' },
      { night: 9, words: '7' },
      { night: 16, words: '14' },
    ]);
  });
});
