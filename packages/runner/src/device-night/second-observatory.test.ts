// The same nights against a second implementation of the protocol that shares no code with the simulated observatory: what the
// runner does is not made to one observatory's measure. The first by a clock that nobody holds.
import { readdir } from 'node:fs/promises';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, it } from '@jest/globals';
import type { PlainSite } from '../../test/plain-night.ts';
import { MIDNIGHT, openPlainSite, planned } from '../../test/plain-night.ts';

let at: PlainSite;
afterEach(() => at.close());

describe('a night at an observatory of another make', () => {
  beforeEach(async () => void (at = await openPlainSite()));

  it('opens, focuses, corrects a pointing that is off by a quarter of a degree, exposes, and closes', async () => {
    const { end, done, outcomes, actions } = await at.play([planned(1), planned(2), planned(3)]);
    expect([end, at.plain.roof(), at.plain.isParked(), at.plain.wrong]).toEqual(['finished', 'closed', true, []]);
    expect([...outcomes.values()].map(({ words }) => words)).toEqual(Array(3).fill(expect.stringMatching(/^Taken: \d+ stars$/))); // prettier-ignore
    expect(
      actions.flatMap(({ kind, outcome, remark }) => (outcome === 'failed' ? [`${kind}: ${remark}`] : [])),
    ).toEqual([]);
    for (const kind of ['connect', 'cool', 'open roof', 'unstow', 'slew', 'focus', 'solve', 'centre', 'guide', 'filter', 'dither', 'stow', 'close roof', 'warm up'])
      expect(done).toContain(kind); // prettier-ignore
    expect(actions.find(({ kind, outcome }) => kind === 'centre' && outcome === 'done')!.remark).toMatch(/^(7|8|9)\d\d″ off, \d″ after correcting$/); // prettier-ignore
    const focused = actions.find(({ kind, outcome }) => kind === 'focus' && outcome === 'done')!.remark!;
    expect(focused).toMatch(/^(199|200)\d\d steps/); // prettier-ignore
    expect(await readdir(join(at.folder, 'Plain', '2026-12-07'))).toHaveLength(3);
    // The second filter's own focus, 60 steps from the first's.
    expect(at.plain.focusSteps() - Number(/^\d+/.exec(focused)![0])).toBe(60);
    expect(at.plain.minders.size).toBe(1);
  });
});

describe('a simulated night at an observatory of another make', () => {
  beforeEach(async () => void (at = await openPlainSite({ isHeld: true })));

  it('closes when the sky turns unsafe, and exposes again when it has been safe for long enough', async () => {
    const later = [1, 2, 3].map((seq) => planned(seq, { plannedStartUtcMs: MIDNIGHT + 1000 * (300 + 200 * seq) }));
    const { end, done } = await at.play(later, { onBegin: (seq) => seq === 2 && at.breaks('unsafe', 100) });
    expect(done.filter((kind) => kind === 'close roof')).toHaveLength(2);
    expect(done.filter((kind) => kind === 'open roof')).toHaveLength(2);
    expect([end, at.plain.roof(), at.plain.wrong]).toEqual(['finished', 'closed', []]);
  });

  it('leaves a project where a person must turn the camera, and says by how much', async () => {
    const { actions, outcomes, end } = await at.play([planned(1, { positionAngleDeg: 90 })]);
    expect(actions.some(({ words }) => /is left for tonight: the camera must be turned by 50\.0°/.test(words))).toBe(
      true,
    );
    expect([outcomes.get(1)!.outcome, end, at.plain.roof()]).toEqual(['lost', 'finished', 'closed']);
  });

  it('never moves the roof over a mount that does not park, and calls a person', async () => {
    const { end, actions } = await at.play([planned(1), planned(2)], { onBegin: (seq) => seq === 2 && at.breaks('mount stuck', 7200) }); // prettier-ignore
    expect([end, at.plain.roof(), at.plain.wrong]).toEqual(['not closed', 'open', []]);
    expect(actions.some(({ kind }) => kind === 'call')).toBe(true);
  });

  it('is told to close though its camera never answers', async () => {
    const onAction = ({ kind }: { kind: string }): void => void (kind === 'connect' && at.breaks('camera silent', 36_000)); // prettier-ignore
    const { end, actions } = await at.play([planned(1)], { onAction });
    expect([end, at.plain.roof(), at.plain.wrong]).toEqual(['closed early', 'closed', []]);
    expect(actions.some(({ kind }) => kind === 'call')).toBe(false);
  });

  it('goes on by rule after its camera was silent, and stops after the exposure under way at a person’s word', async () => {
    const orders = { holdId: null, leaveId: null, isLast: false, testShot: null };
    const other = planned(2, { panelId: 'b', plannedStartUtcMs: MIDNIGHT + 1000 * 900 });
    const { end, outcomes } = await at.play([planned(1), other, planned(3, { panelId: 'b', plannedStartUtcMs: MIDNIGHT + 1000 * 930 })], {
      orders,
      onBegin: (seq) => {
        if (seq === 1) at.breaks('camera silent', 60);
        if (seq === 2) orders.isLast = true;
      },
    }); // prettier-ignore
    expect([outcomes.get(1)!.outcome, outcomes.get(2)!.outcome, outcomes.has(3)]).toEqual(['lost', 'done', false]);
    expect([end, at.plain.roof(), at.plain.isParked(), at.plain.wrong]).toEqual(['stopped', 'closed', true, []]);
  });
});
