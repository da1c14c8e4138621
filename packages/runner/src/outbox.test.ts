import { describe, expect, it } from '@jest/globals';
import { createOutbox } from './outbox.ts';

const opened = (most = 3) => {
  const sent: string[][] = [];
  const refused: unknown[] = [];
  let slept = 0;
  let hold: Promise<void> = Promise.resolve();
  const outbox = createOutbox<string>({
    async send(items) {
      await hold;
      if (items.includes('bad')) throw new Error('refused');
      sent.push([...items]);
    },
    together: (item) => /^[a-z]/.test(item),
    most,
    sleep: async () => void (slept += 1),
    onRefused: (error) => refused.push(error),
  });
  return { outbox, sent, refused, pauses: () => slept, hold: (until: Promise<void>) => void (hold = until) };
};

describe('reports to the server', () => {
  it('keep their order, and those that may go together do, up to the most', async () => {
    const { outbox, sent, pauses } = opened();
    for (const item of ['a', 'b', 'A', 'c', 'd', 'e', 'f', 'B', 'C', 'g']) outbox.add(item);
    expect(outbox.waiting).toBe(10);
    await outbox.flush();
    expect(sent).toEqual([['a', 'b'], ['A'], ['c', 'd', 'e'], ['f'], ['B'], ['C'], ['g']]);
    expect([outbox.waiting, pauses()]).toEqual([0, 1]);
  });

  it('that come while one is under way wait and are sent after it', async () => {
    const { outbox, sent, hold } = opened();
    let release = (): void => undefined;
    hold(new Promise((resolve) => (release = resolve)));
    outbox.add('A');
    await Promise.resolve();
    for (const item of ['a', 'b']) outbox.add(item);
    const flushed = outbox.flush();
    release();
    await flushed;
    expect(sent).toEqual([['A'], ['a', 'b']]);
    outbox.add('c');
    await outbox.flush();
    expect(sent.at(-1)).toEqual(['c']);
  });

  it('that are refused are dropped, and hold up nothing', async () => {
    const { outbox, sent, refused } = opened();
    for (const item of ['bad', 'A']) outbox.add(item);
    await outbox.flush();
    expect([sent, refused.length]).toEqual([[['A']], 1]);
  });
});
