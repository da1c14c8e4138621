import { expect, it } from '@jest/globals';
import { setTimeout as sleep } from 'node:timers/promises';
import { allSaved, underWay } from './under-way.ts';

it('undo waits for every save, also for those that begin meanwhile, and for those that fail', async () => {
  const done: string[] = [];
  const save = async (name: string, ms: number): Promise<void> => {
    await sleep(ms);
    done.push(name);
  };
  void underWay(save('first', 20).then(() => void underWay(save('second', 20))));
  void underWay(sleep(10).then(() => Promise.reject(new Error('refused')))).catch(() => done.push('refused'));
  await allSaved();
  // Which of the first two ends before the other is the machine's own affair.
  expect(done.toSorted()).toEqual(['first', 'refused', 'second']);
  await allSaved();
});
