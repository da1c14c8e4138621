import { describe, expect, it } from '@jest/globals';
import { EMPTY_SELECTION, judged, movedCursor, toggled } from './view-model.ts';

const ids = ['a', 'b', 'c', 'd', 'e'];

describe('selection', () => {
  it('stays inside the rows', () => {
    expect(movedCursor(EMPTY_SELECTION, -5, ids, false).cursor).toBe(0);
    expect(movedCursor(EMPTY_SELECTION, 99, ids, false).cursor).toBe(4);
  });
  it('extends from where shift was first held, both ways', () => {
    const start = movedCursor(EMPTY_SELECTION, 2, ids, false);
    const down = movedCursor(start, 2, ids, true);
    expect([...down.ids]).toEqual(['c', 'd', 'e']);
    expect([...movedCursor(down, -4, ids, true).ids]).toEqual(['a', 'b', 'c']);
  });
  it('toggles single rows', () => {
    const once = toggled(EMPTY_SELECTION, 1, 'b');
    expect([...once.ids]).toEqual(['b']);
    expect([...toggled(once, 1, 'b').ids]).toEqual([]);
  });
  it('gives a verdict to what is selected, else to the row under the cursor', () => {
    expect(judged(toggled(EMPTY_SELECTION, 3, 'd'), ids)).toEqual(['d']);
    expect(judged({ ...EMPTY_SELECTION, cursor: 2 }, ids)).toEqual(['c']);
    expect(judged(EMPTY_SELECTION, [])).toEqual([]);
  });
});
