import { describe, expect, it } from '@jest/globals';
import type { Account, Filter, Recipe, Rig } from '@meridiem/contract';
import {
  coolingDoubt,
  filterOptions,
  likeLastRecipe,
  mayChange,
  needsFilter,
  readsWords,
  regionFrom,
  regionText,
} from './recipe-words.ts';

const rig = {
  id: 'rig',
  focalLengthMm: 530,
  pixelUm: 9,
  widthPx: 1600,
  heightPx: 1200,
  filterHolder: 'wheel',
  coolingBelowC: 35,
  slots: [{ slot: 1, filterId: 'ha', focusOffsetSteps: null }],
  cameraModes: [
    { id: 'low', typicalOffset: 12 },
    { id: 'high', typicalOffset: 40 },
  ],
} as unknown as Rig;
const filter = (id: string, letter: string): Filter => ({ id, letter, name: `${letter} glass` }) as Filter;
const recipe = (changes: Partial<Recipe>): Recipe =>
  ({
    rigId: 'rig',
    kind: 'light',
    filterId: 'ha',
    cameraModeId: 'low',
    offset: 15,
    binning: 2,
    sensorC: -15,
    ditherEvery: 2,
    ditherPx: 9,
    region: null,
    ...changes,
  }) as Recipe;

describe('filters to choose from', () => {
  const filters = [filter('l', 'L'), filter('ha', 'Ha')];
  it('begin with what is fitted, and say of the others what they need', () =>
    expect(filterOptions(rig, filters)).toEqual([
      { value: 'ha', words: 'Ha, Ha glass' },
      { value: 'l', words: 'L, L glass', missing: 'not in the wheel' },
    ]));
  it('wait for hands where they are in a drawer', () =>
    expect(filterOptions({ ...rig, filterHolder: 'drawer' }, filters)[1].missing).toBe('needs the drawer changed'));
});

describe('a new recipe', () => {
  const of = { kind: 'light' as const, filterId: 'ha' };
  it('begins with the last of its filter', () =>
    expect(likeLastRecipe({ recipes: [recipe({}), recipe({ filterId: 'l', binning: 1 })] }, rig, of)).toMatchObject({
      cameraModeId: 'low',
      offset: 15,
      binning: 2,
      sensorC: -15,
      ditherEvery: 2,
      ditherPx: 9,
    }));
  it('has the mode’s own offset where another mode is chosen, or nothing was before', () => {
    expect(likeLastRecipe({ recipes: [recipe({})] }, rig, { ...of, cameraModeId: 'high' })).toMatchObject({
      cameraModeId: 'high',
      offset: 40,
    });
    expect(likeLastRecipe({ recipes: [] }, rig, of)).toMatchObject({ cameraModeId: 'low', offset: 12, binning: 1 });
  });
  it('takes nothing from another rig, and calibration is never dithered', () => {
    expect(likeLastRecipe({ recipes: [recipe({ rigId: 'other' })] }, rig, of).binning).toBe(1);
    expect(likeLastRecipe({ recipes: [recipe({})] }, rig, { kind: 'dark', filterId: null })).toMatchObject({
      ditherEvery: 0,
      ditherPx: 0,
      sensorC: -15,
    });
  });
  it('has a filter unless no light comes in', () =>
    expect((['light', 'flat', 'test', 'dark', 'bias'] as const).map(needsFilter)).toEqual([true, true, true, false, false])); // prettier-ignore
});

describe('what a recipe reads', () => {
  it('restates pixels, scale and star width', () => {
    expect(readsWords(rig, { binning: 1, region: null })).toBe('1600 × 1200 px at 3.50″/px, stars about 0.7 px wide');
    expect(readsWords(rig, { binning: 2, region: { widthPx: 800, heightPx: 600 } })).toBe(
      '25 % of the sensor, 400 × 300 px at 7.01″/px, stars about 0.4 px wide',
    );
  });
  it('is typed as a part, or as all', () => {
    expect(['', 'all', ' All '].map(regionFrom)).toEqual([null, null, null]);
    expect(['1200 × 800', '1200x800', '1200*800 px'].map(regionFrom)).toEqual(
      Array(3).fill({ widthPx: 1200, heightPx: 800 }),
    );
    expect(() => regionFrom('half')).toThrow(/1200 × 800/);
    expect([regionText({ region: null }), regionText({ region: { widthPx: 4, heightPx: 3 } })]).toEqual([
      'all',
      '4 × 3',
    ]);
  });
});

it('a temperature that the cooler can’t reach on a usual evening is doubted', () => {
  expect(coolingDoubt(rig, -10)).toBeNull();
  expect(coolingDoubt(rig, -20)).toBe('needs air of 15 °C or colder');
  expect(coolingDoubt({ ...rig, coolingBelowC: null }, -5)).toBe('the camera has no cooler');
  expect(coolingDoubt({ ...rig, coolingBelowC: null }, 12)).toBeNull();
});

it('everybody’s recipes are a coordinator’s to change, own ones their owner’s too', () => {
  const account = (role: Account['role']) => ({ role, personId: 'p' }) as Account;
  expect(mayChange(account('coordinator'), recipe({ ownerId: null }))).toBe(true);
  expect(mayChange(account('member'), recipe({ ownerId: null }))).toBe(false);
  expect(mayChange(account('member'), recipe({ ownerId: 'p' }))).toBe(true);
  expect(mayChange(account('member'), recipe({ ownerId: 'q' }))).toBe(false);
});
