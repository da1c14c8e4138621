import { describe, expect, it } from '@jest/globals';
import { setTimeout as sleep } from 'node:timers/promises';
import type { Asked } from './work-queue.ts';
import { createWorkQueue } from './work-queue.ts';

const of = (personId: string | null, isPageWaiting = true): Asked => ({ personId, isPageWaiting });
const slow = async (): Promise<void> => void (await sleep(30));

describe('a queue of work', () => {
  it('computes no more at once than it may', async () => {
    const queue = createWorkQueue({ atOnce: 2 });
    let [now, most] = [0, 0];
    const work = async (): Promise<void> => {
      most = Math.max(most, (now += 1));
      await sleep(10);
      now -= 1;
    };
    await Promise.all(Array.from({ length: 9 }, () => queue.add(of(null), work)));
    expect([most, now]).toEqual([2, 0]);
  });
  it('takes what a page waits for first', async () => {
    const queue = createWorkQueue({ atOnce: 1 });
    const order: string[] = [];
    const named = (name: string) => async (): Promise<void> => {
      await sleep(5);
      order.push(name);
    };
    await Promise.all([
      queue.add(of('a', false), named('first')),
      queue.add(of('a', false), named('background')),
      queue.add(of('b'), named('page')),
    ]);
    expect(order).toEqual(['first', 'page', 'background']);
  });
  it('gives nobody more than their share, and others theirs', async () => {
    const queue = createWorkQueue({ atOnce: 1, mostOfOne: 2 });
    const mine = [queue.add(of('a'), slow), queue.add(of('a'), slow)];
    await expect(queue.add(of('a'), slow)).rejects.toMatchObject({ code: 'NOT_READY' });
    await queue.add(of('b'), slow);
    await Promise.all(mine);
    await queue.add(of('a'), slow);
  });
  it('says that it is full', async () => {
    const queue = createWorkQueue({ atOnce: 1, mostWaiting: 3 });
    const all = Array.from({ length: 4 }, () => queue.add(of(null), slow));
    await expect(queue.add(of('b'), slow)).rejects.toMatchObject({ code: 'NOT_READY', status: 503 });
    await Promise.all(all);
  });
  it('gives up what takes too long, waiting or running, and goes on', async () => {
    const queue = createWorkQueue({ atOnce: 1, longestMs: 40 });
    const endless = queue.add(
      of('a'),
      (signal) => new Promise((_, fail) => signal.addEventListener('abort', () => fail(new Error('stopped')))),
    );
    const behind = queue.add(of('a'), (signal) => sleep(1000, undefined, { signal }));
    await expect(endless).rejects.toMatchObject({ code: 'NOT_READY' });
    await expect(behind).rejects.toMatchObject({ code: 'NOT_READY' });
    expect(await queue.add(of('a'), async () => 7)).toBe(7);
  });
  it('passes on what fails', async () => {
    const queue = createWorkQueue();
    await expect(queue.add(of('a'), async () => Promise.reject(new Error('broken')))).rejects.toThrow('broken');
    expect(queue.length()).toBe(0);
  });
});
