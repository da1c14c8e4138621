import { describe, expect, it } from '@jest/globals';
import type { Filter, Goal, LimitEffect, Project, Recipe, Rig } from '@meridiem/contract';
import { DEFAULT_STEP_COSTS } from '@meridiem/core';
import { fitsTonight, readRows, refocusWords, revisionWords, rowsAsBefore } from './goal-rows.ts';
import { effectWords } from './view-model.ts';

const recipe = {
  id: 'r',
  filterId: 'f',
  exposureSec: 300,
  pauseSec: 0,
  ditherEvery: 0,
  ditherPx: 5,
  gain: 100,
  offset: 30,
  binning: 1,
} as unknown as Recipe;
const goal = { filterId: 'f', filterLetter: 'Ha', filterClass: 'narrowband', enabled: true, exposureSec: 300, gain: 100, offset: 30, binning: 1, ditherEvery: 3, ditherPx: 5, tonight: { usableHours: 2 } } as unknown as Goal; // prettier-ignore
const other = { ...goal, filterId: 'g', filterLetter: 'OIII' } as Goal;
const project = { filterGroup: 2, panels: [{ goals: [goal, other] }] } as unknown as Project;
const rig = {
  costs: { ...DEFAULT_STEP_COSTS, autofocusEveryMin: 0 },
  slots: [{ filterId: 'f', focusOffsetSteps: null }],
} as unknown as Rig;

describe('rows of goals', () => {
  it('are read into counts, and name the row that can’t be', () => {
    expect(readRows([{ recipeId: 'r', text: '2h' }], [recipe])).toEqual([{ recipeId: 'r', wanted: 24 }]);
    expect(() =>
      readRows(
        [
          { recipeId: 'r', text: '1' },
          { recipeId: '', text: '1' },
        ],
        [recipe],
      ),
    ).toThrow('Row 2: choose a recipe; a goal needs a definite filter');
    expect(() => readRows([{ recipeId: 'r', text: 'lots' }], [recipe])).toThrow(/^Row 1: "lots"/);
  });

  it('know how many fit tonight', () => {
    const filter = { id: 'f', class: 'narrowband' } as Filter;
    expect(fitsTonight(project, filter, rig, recipe)).toBe(23);
    expect(fitsTonight(project, { ...filter, class: 'broadband' }, rig, recipe)).toBeNull();
  });

  it('are filled as the project was exposed before, and name what no recipe has', () => {
    const earlier = (filterLetter: string, recipeId: string | null, gain: number | null) =>
      ({ filterId: filterLetter, filterLetter, exposureSec: 300, gain, binning: 1, sensorC: -10, recipeId }) as const; // prettier-ignore
    const panels = [{ goals: [{ ...goal, recipeId: 'ha', wanted: 40 }, { ...goal, recipeId: 'o', filterId: 'OIII', wanted: null }] }]; // prettier-ignore
    const before = { panels, earlier: [earlier('Ha', 'ha', 100), earlier('OIII', 'new', 100), earlier('SII', 'sii', 100), earlier('L', null, 7), earlier('R', null, null)] } as unknown as Project; // prettier-ignore
    const recipes = ['new', 'sii', 'unused', 'ha'].map((id) => ({ id, filterId: id === 'new' ? 'OIII' : id === 'ha' ? 'Ha' : 'SII' })) as Recipe[]; // prettier-ignore
    expect(rowsAsBefore(before, recipes)).toEqual({
      rows: [
        { recipeId: 'new', text: 'open' },
        { recipeId: 'sii', text: '' },
        { recipeId: 'ha', text: '40' },
      ],
      missing: ['L 300 s, gain 7, binning 1, -10 °C', 'R 300 s, binning 1, -10 °C'],
    });
    expect(rowsAsBefore({ panels, earlier: [] } as unknown as Project, recipes)).toEqual({ rows: [], missing: [] });
  });

  it('say what a newer recipe would change', () => {
    expect(revisionWords(goal, { ...recipe, exposureSec: 600, ditherEvery: 3 })).toBe('600 s instead of 300 s');
    expect(revisionWords(goal, { ...recipe, ditherEvery: 3, ditherPx: 12 })).toBe('dither every 3 by 12 px instead of dither every 3 by 5 px'); // prettier-ignore
    expect(revisionWords(goal, recipe)).toBe('dither off instead of dither every 3 by 5 px');
  });

  it('warn of refocusing at every change, with minutes', () => {
    expect(refocusWords(project, rig)).toBe(
      'Each change of filter refocuses, because the focus offset of Ha, OIII is not measured: about 15 min lost an hour.',
    );
    expect(refocusWords({ ...project, filterGroup: 0 }, rig)).toBeNull();
  });
});

describe('what a limit costs', () => {
  const night = { nightDate: '2026-10-11', hours: 2, hoursWithout: 5, hoursProposed: 1 };
  it('is told in hours, tonight and in all', () => {
    const effect = { nights: [night, { ...night, hours: 5 }] } as unknown as LimitEffect;
    expect(effectWords(effect, false)).toBe(
      'This limit costs 3.0 of 10.0 h in the coming 2 nights; tonight 3.0 of 5.0 h.',
    );
    expect(effectWords(effect, true)).toContain('As tried it loses 5.0 h against now.');
  });
});
