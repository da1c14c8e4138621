import { describe, expect, it } from '@jest/globals';
import type { Filter, Observatory, Project, Recipe, Rig } from '@meridiem/contract';
import { DEFAULT_BOUNDS, DEFAULT_STEP_COSTS, STANDARD_FILTERS } from '@meridiem/core';
import { fittedRows } from './fit-rows.ts';

const filters = STANDARD_FILTERS.slice(0, 2).map((filter, i) => ({ ...filter, id: `f${i}` })) as unknown as Filter[];
const rig = {
  id: 'r', apertureMm: 100, obstructionShare: 0, focalLengthMm: 500, pixelUm: 4, widthPx: 4000, heightPx: 3000,
  throughput: 0.5, darkCurrentEPerSec: 0, cameraModes: [{ readNoiseE: 2 }],
  costs: { ...DEFAULT_STEP_COSTS, autofocusEveryMin: 0 }, slots: [],
} as unknown as Rig; // prettier-ignore
const recipes = filters.map(({ id }, i) => ({
  id: `recipe ${i}`, filterId: id, rigId: 'r', exposureSec: 120, pauseSec: 0, ditherEvery: 0, region: null,
})) as unknown as Recipe[]; // prettier-ignore
const observatory = {
  latitudeDeg: -30, longitudeDeg: 20, elevationM: 1000, timeZone: 'UTC', zenithMagV: 21.5, horizon: [],
  bounds: DEFAULT_BOUNDS, limits: [], filters, recipes, tonight: '2026-12-08',
} as unknown as Observatory; // prettier-ignore
const panels = [
  { id: 'one', raDeg: 70, decDeg: -30 },
  { id: 'two', raDeg: 71, decDeg: -30 },
];
const project = { panels, limits: [] } as unknown as Project;
const wish = { project, panelIds: ['one'], rig, recipes, observatory, nightCount: 1 };
const counts = (of: Partial<Parameters<typeof fittedRows>[0]>, texts: readonly string[]): number[] =>
  fittedRows({
    ...wish,
    rows: texts.map((text, i) => ({ recipeId: `recipe ${i}`, text })),
    ...of,
  }).rows.map(({ text }) => Number(text));

describe('one fit for all rows', () => {
  it('fills a summer night near the zenith in the proportion typed', () => {
    const [first, second] = counts({}, ['20', '10']);
    expect(Math.abs(first / second - 2)).toBeLessThan(0.1);
    // A December night at 30° south: some six and a half dark hours, all of them high.
    const usedHours = ((first + second) * (120 + DEFAULT_STEP_COSTS.downloadSec)) / 3600;
    expect(usedHours).toBeGreaterThan(5.5);
    expect(usedHours).toBeLessThan(8);
  });
  it('shares alike where nothing is typed, among panels, and grows with the nights', () => {
    const [first, second] = counts({}, ['', '']);
    expect(Math.abs(first - second)).toBeLessThanOrEqual(1);
    const both = counts({ panelIds: ['one', 'two'] }, ['', '']);
    expect(Math.abs(2 * both[0] - first)).toBeLessThanOrEqual(2);
    const three = counts({ nightCount: 3 }, ['', '']);
    expect(Math.abs(three[0] / first - 3)).toBeLessThan(0.15);
  });
  it('says what is never open', () => {
    const low = { ...project, panels: [{ ...panels[0], decDeg: 75 }] } as Project;
    const { rows, words } = fittedRows({ ...wish, project: low, rows: [{ recipeId: 'recipe 0', text: '5' }] });
    expect(rows).toEqual([{ recipeId: 'recipe 0', text: '0' }]);
    expect(words).toMatch(/^0\.0 h of exposures tonight.*never open: L$/);
  });
  it('refuses what can’t be fitted, in words', () => {
    expect(() => fittedRows({ ...wish, rows: [{ recipeId: '', text: '' }] })).toThrow('Row 1: choose a recipe first');
    const open = { ...project, panels: [{ ...panels[0], raDeg: null }] } as unknown as Project;
    expect(() => fittedRows({ ...wish, project: open, rows: [] })).toThrow('a fixed place');
  });
});
