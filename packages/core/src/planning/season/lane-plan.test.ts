import { describe, expect, it } from '@jest/globals';
import { BlockList, LanePlan, MOST_BLOCKS } from './lane-plan.ts';

const written = (list: BlockList): [goal: number, count: number, notBeforeSec: number][] =>
  Array.from({ length: list.length }, (_, b) => [list.goal[b], list.count[b], list.notBeforeSec[b]]);

describe('blocks of a lane', () => {
  it('are joined where the same goal goes on', () => {
    const list = new BlockList();
    list.push(3, 2);
    list.push(3, 4);
    list.push(5, 1);
    list.push(3, 1);
    expect(written(list)).toEqual([
      [3, 6, 0],
      [5, 1, 0],
      [3, 1, 0],
    ]);
  });

  it('stay apart where the second waits for a moment of its own', () => {
    const list = new BlockList();
    list.push(3, 2, 100);
    list.push(3, 4, 900);
    list.push(3, 1);
    expect(written(list)).toEqual([
      [3, 2, 100],
      [3, 5, 900],
    ]);
  });

  it('of nothing are left out', () => {
    const list = new BlockList();
    list.push(3, 0);
    list.push(3, -2, 100);
    expect(list.length).toBe(0);
  });

  it('are no more than there is room for', () => {
    const list = new BlockList();
    for (let i = 0; i < MOST_BLOCKS + 50; i++) list.push(i, 1);
    expect(list.length).toBe(MOST_BLOCKS);
    list.push(9999, 1);
    expect(list.goal[MOST_BLOCKS - 1]).toBe(MOST_BLOCKS - 1);
  });

  it('of another list are appended from one to before another, joined at the seam', () => {
    const [first, second] = [new BlockList(), new LanePlan()];
    first.push(1, 1);
    for (const goal of [7, 1, 2, 8]) second.push(goal, 2);
    first.append(second, 1, 3);
    expect(written(first)).toEqual([
      [1, 3, 0],
      [2, 2, 0],
    ]);
    first.clear();
    expect(written(first)).toEqual([]);
  });
});
