import { describe, expect, it } from '@jest/globals';
import { VERDICT_REASONS } from '@meridiem/contract';
import { EMPTY_SELECTION, REASON_KEYS, judged, movedCursor, standing, toggled } from './view-model.ts';

const ids = ['a', 'b', 'c', 'd', 'e'];
const onB = standing(EMPTY_SELECTION, 'b');

describe('selection', () => {
  it('stays inside the rows', () => {
    expect(movedCursor(EMPTY_SELECTION, -5, ids, false).cursor).toBe('a');
    expect(movedCursor(EMPTY_SELECTION, 99, ids, false).cursor).toBe('e');
    expect(movedCursor(EMPTY_SELECTION, 1, [], false).cursor).toBeNull();
  });

  it('extends from where shift was first held, both ways', () => {
    const start = movedCursor(EMPTY_SELECTION, 2, ids, false);
    const down = movedCursor(start, 2, ids, true);
    expect([...down.ids]).toEqual(['c', 'd', 'e']);
    expect([...movedCursor(down, -4, ids, true).ids]).toEqual(['a', 'b', 'c']);
  });

  it('toggles single rows', () => {
    const once = toggled(EMPTY_SELECTION, 'b');
    expect([...once.ids]).toEqual(['b']);
    expect([...toggled(once, 'b').ids]).toEqual([]);
  });

  it('follows its row when others come in above', () => {
    const more = ['new 2', 'new 1', ...ids];
    expect(judged(onB, more)).toEqual(['b']);
    expect(movedCursor(onB, 1, more, false).cursor).toBe('c');
    expect([...movedCursor(onB, 1, more, true).ids]).toEqual(['b', 'c']);
  });

  it('goes on from the first row where its own has left the list', () => {
    expect(judged(onB, ['x', 'y'])).toEqual([]);
    expect(movedCursor(onB, 1, ['x', 'y'], false).cursor).toBe('y');
  });

  it('gives a verdict to what is selected, else to the row under the cursor, and to nothing by chance', () => {
    expect(judged(toggled(EMPTY_SELECTION, 'd'), ids)).toEqual(['d']);
    expect(judged(standing(EMPTY_SELECTION, 'c'), ids)).toEqual(['c']);
    expect(judged(EMPTY_SELECTION, ids)).toEqual([]);
  });
});

it('has a key of its own for every reason', () => {
  const keys = VERDICT_REASONS.map((_, i) => REASON_KEYS[i]);
  expect(new Set(keys).size).toBe(VERDICT_REASONS.length);
  expect(keys).not.toContain(undefined);
});
