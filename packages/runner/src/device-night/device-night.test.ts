// A whole night against the simulated observatory, over HTTP, judged by what that observatory says happened.
import { readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, it } from '@jest/globals';
import {
  apparentSiderealDeg,
  directionOf,
  frameOfDate,
  NIGHT_ENDS,
  nightRulesWith,
  readFitsHeaders,
  toJ2000,
  wrap360,
} from '@meridiem/core';
import type { RunStep } from '@meridiem/contract';
import type { TestSite } from '../../test/night-harness.ts';
import {
  kinds,
  open,
  openSite,
  SAFE_HOLD_MIN,
  site,
  START,
  step,
  target,
  violations,
  wentWrong,
} from '../../test/night-harness.ts';

let at: TestSite;
beforeEach(async () => void (at = await openSite()));
afterEach(() => at.close());

/** An exposure of a stay that is not focused: focusing is seen in the first night below. */
const quick = (seq: number, more: Partial<RunStep> = {}): RunStep => step(seq, { focus: false, ...more });

describe('a night with devices', () => {
  it('opens, exposes, and closes; its frames are on disk and point where they should', async () => {
    expect(directionOf(site, target, START).altitudeDeg).toBeGreaterThan(45);
    const played = await at.play([1, 2, 3, 4].map((seq) => step(seq)));
    expect([played.end, played.truth.roof, played.truth.isParked]).toEqual(['finished', 'closed', true]);
    expect(violations(played)).toEqual([]);
    expect(open(played)).toEqual([]);
    expect([...played.outcomes.values()].map(({ words }) => words)).toEqual(
      Array(4).fill(expect.stringMatching(/^Taken: \d+ stars$/)),
    );
    const done = kinds(played);
    for (const kind of [
      'connect',
      'open roof',
      'unstow',
      'slew',
      'focus',
      'solve',
      'rotate',
      'centre',
      'guide',
      'dither',
      'stow',
      'close roof',
      'warm up',
    ])
      expect(done).toContain(kind);
    expect(done.indexOf('stow')).toBeLessThan(done.indexOf('close roof'));
    const { exposure } = played.outcomes.get(1)!;
    expect(exposure!.starCount).toBeGreaterThan(10);
    expect(exposure!.halfFluxRadiusPx).toBeLessThan(2.5);
    const files = await readdir(join(at.folder, 'Wren', '2026-12-08'));
    expect(files).toHaveLength(4);
    const cards = readFitsHeaders(await readFile(join(at.folder, 'Wren', '2026-12-08', files[0]))).units[0].cards;
    const card = (keyword: string) => cards.find((one) => one.keyword === keyword)?.value;
    expect([card('EXPTIME'), card('FILTER'), card('NAXIS1'), card('SIMULATE')]).toEqual([60, 'L', 640, true]);
  });

  it('says what the rig’s people have added at its moment, once a stay', async () => {
    const ownSteps = [
      { moment: 'arriving' as const, words: 'Lens heater at 40 %' },
      { moment: 'leaving' as const, words: 'Lens heater off' },
    ];
    const { actions } = await at.play([quick(1), quick(2)], { devices: { ownSteps } });
    const said = actions.filter(
      ({ kind, outcome }) => outcome === 'done' && ['note', 'guide', 'download'].includes(kind),
    );
    expect(said.map(({ kind, words }) => (kind === 'note' ? words : kind))).toEqual([
      'guide',
      'Lens heater at 40 %',
      'download',
      'download',
      'Lens heater off',
    ]);
  });

  it('finds the focus by both arms at half the step where the curve was found twice in vain', async () => {
    let failed = 0;
    const { actions } = await at.play([step(1)], {
      fault: { during: 'focus', fault: 'focuser stuck', forSec: 7200 },
      onReport: ({ kind, outcome }, baseUrl) => {
        if (kind !== 'focus' || outcome !== 'failed' || ++failed < 2) return;
        const body = JSON.stringify({ fault: 'focuser stuck', forSec: 0 });
        void fetch(`${baseUrl}/faults`, { method: 'PUT', body, headers: { 'content-type': 'application/json' } });
      },
    });
    const focusing = actions.filter(({ kind, outcome }) => kind === 'focus' && outcome !== null);
    expect(focusing.map(({ curve }) => [curve!.points.length, curve!.bestSteps !== null])).toEqual([
      [7, false],
      [7, false],
      [13, true],
    ]);
    expect(focusing.map(({ words, outcome }) => `${words}: ${outcome}`)).toEqual([
      'L: failed',
      'L: failed',
      'L, by both arms at half the step: done',
    ]);
  });

  it('flips over the meridian before its limit, centred and guided again, and goes on', async () => {
    const frame = frameOfDate(START);
    const sidereal = apparentSiderealDeg(frame, START) + site.longitudeDeg;
    // Five degrees, twenty minutes, before the meridian as the first of seven five-minute exposures begins.
    const place = toJ2000({ raDeg: wrap360(sidereal + 5), decDeg: -50 }, START);
    const exposures = [1, 2, 3, 4, 5, 6, 7].map((seq) =>
      quick(seq, {
        ...place,
        exposureSec: 300,
        filterLetter: 'L',
        focus: false,
        plannedStartUtcMs: START + (seq - 1) * 320_000,
      }),
    );
    const played = await at.play(exposures);
    expect([...played.outcomes.values()].map(({ outcome }) => outcome)).toEqual(Array(7).fill('done'));
    const done = played.actions.filter(({ outcome }) => outcome === 'done').map(({ kind }) => kind);
    const after = done.slice(done.indexOf('flip'));
    for (const kind of ['slew', 'solve', 'centre', 'guide', 'expose']) expect(after).toContain(kind);
    const files = (await readdir(join(at.folder, 'Wren', '2026-12-08'))).toSorted();
    const sides = await Promise.all(
      files.map(async (name) => {
        const { cards } = readFitsHeaders(await readFile(join(at.folder, 'Wren', '2026-12-08', name))).units[0];
        return cards.find(({ keyword }) => keyword === 'PIERSIDE')!.value;
      }),
    );
    expect([sides[0], sides.at(-1)]).toEqual(['WEST', 'EAST']);
    expect(violations(played)).toEqual([]);
  });

  it('corrects a pointing that is off, to half an arcminute', async () => {
    const { actions } = await at.play([quick(1)]);
    const centred = actions.find(({ kind, outcome }) => kind === 'centre' && outcome === 'done')!;
    expect(Number(/(\d+)″ after/.exec(centred.remark!)?.[1] ?? 0)).toBeLessThanOrEqual(30);
  });

  it('leaves a project for tonight where a person must turn the camera, and says by how much', async () => {
    const played = await at.play([quick(1), quick(2)], { devices: { rotatorKind: 'hand' } });
    const { words } = played.outcomes.get(1)!;
    expect(words).toMatch(/must be turned by 40\.\d° (counter-)?clockwise, 2[78] mm along the drawtube/);
    expect([played.end, played.truth.roof, played.outcomes.get(2)!.outcome]).toEqual(['finished', 'closed', 'lost']);
  });

  it('closes when the sky turns unsafe, and exposes again when it has been safe for long enough', async () => {
    const later = quick(3, { plannedStartUtcMs: START + 3_000_000, panelId: 'b' });
    const played = await at.play([quick(1), quick(2), later], { fault: { at: 2, fault: 'unsafe', forSec: 600 } });
    expect(violations(played)).toEqual([]);
    expect(kinds(played).filter((kind) => kind === 'close roof')).toHaveLength(2);
    expect([played.outcomes.get(1)!.outcome, played.outcomes.get(3)!.outcome, played.end]).toEqual([
      'done',
      'done',
      'finished',
    ]);
    expect(open(played)).toEqual([]);
  });

  it('holds at a person’s word after its exposure, with the roof open, and goes on when it is lifted', async () => {
    const orders = { holdId: null as string | null, leaveId: null, isLast: false, testShot: null };
    const played = await at.play([1, 2, 3].map((seq) => quick(seq)), {
      orders,
      onBegin: (seq) => {
        if (seq === 1) orders.holdId = 'hold';
      },
      onReport: ({ words, outcome }) => {
        if (words === 'held by hand' && outcome === null) setTimeout(() => (orders.holdId = null), 50);
      },
    }); // prettier-ignore
    const done = played.actions
      .filter(({ outcome }) => outcome === 'done')
      .map(({ kind, words }) => `${kind} ${words}`);
    const held = done.indexOf('wait held by hand');
    expect(done.slice(0, held).filter((one) => one.startsWith('expose Veil'))).toHaveLength(1);
    expect(done.slice(held).filter((one) => one.startsWith('expose Veil'))).toHaveLength(2);
    expect(done.slice(0, held).some((one) => one.startsWith('close roof'))).toBe(false);
    expect([played.end, played.truth.roof, violations(played)]).toEqual(['finished', 'closed', []]);
  });

  it('goes on by itself after an hour’s hold, and closes first where the sky turns meanwhile', async () => {
    const orders = { holdId: 'hold', leaveId: null, isLast: false, testShot: null };
    const late = quick(1, { plannedStartUtcMs: START + 4_500_000 });
    const early = quick(2, { plannedStartUtcMs: START, panelId: 'b' });
    const played = await at.play([early, late], { orders, fault: { during: 'wait', fault: 'unsafe', forSec: 300 } });
    expect(played.actions.some(({ words }) => words === 'Held for 60 minutes; the night goes on by itself')).toBe(true);
    expect([played.end, played.truth.roof, violations(played)]).toEqual(['finished', 'closed', []]);
    expect(played.outcomes.get(1)!.outcome).toBe('done');
  });

  it('leaves a target at a person’s word, in the middle of an exposure, and takes the next', async () => {
    const orders = { holdId: null, leaveId: null as string | null, isLast: false, testShot: null };
    const carriedOut: string[] = [];
    const asked: (readonly string[])[] = [];
    const steps = [quick(1), quick(2), quick(3, { panelId: 'b', panelName: 'Heron', filterLetter: 'L' })];
    const played = await at.play(steps, {
      orders,
      carriedOut,
      onBegin: (seq) => {
        if (seq === 1) orders.leaveId = 'leave';
      },
      planAgain: async (_from, without) => {
        asked.push(without);
        return null;
      },
    });
    expect([1, 2, 3].map((seq) => played.outcomes.get(seq)!.words)).toEqual([
      'Left by hand',
      'Left by hand',
      expect.stringMatching(/^Taken/),
    ]);
    expect([carriedOut, asked, open(played)]).toEqual([['leave'], [['a']], []]);
  });

  it('stops after the exposure under way at a person’s word', async () => {
    const orders = { holdId: null, leaveId: null, isLast: false, testShot: null };
    const onBegin = (): void => void (orders.isLast = true);
    const played = await at.play([quick(1), quick(2)], { orders, onBegin });
    expect([played.end, played.truth.roof]).toEqual(['stopped', 'closed']);
    expect([...played.outcomes].map(([seq, { outcome }]) => [seq, outcome])).toEqual([[1, 'done']]);
  });

  it('is planned again where it falls behind its plan, goes on where it is, and leaves nothing out', async () => {
    const asked: number[] = [];
    // Twelve minutes less than the plan gives from the first exposure to the second.
    const steps = [quick(1), quick(2, { plannedStartUtcMs: START - 720_000 }), quick(3)];
    const played = await at.play(steps, {
      planAgain: async (fromUtcMs) => {
        asked.push(fromUtcMs);
        return [quick(11, { plannedStartUtcMs: fromUtcMs + 60_000 })];
      },
    });
    expect(asked).toHaveLength(1);
    expect([...played.outcomes].map(([seq, { outcome }]) => [seq, outcome])).toEqual([[1, 'done'], [11, 'done']]); // prettier-ignore
    expect(kinds(played).filter((kind) => ['unstow', 'guide'].includes(kind))).toEqual(['unstow', 'guide']);
    expect([played.end, open(played), wentWrong(played)]).toEqual(['finished', [], []]);
  });

  it('asks once where the new plan is as late as the old one, and carries it out', async () => {
    let asked = 0;
    const late = (seq: number) => quick(seq, { plannedStartUtcMs: START - 900_000 });
    const played = await at.play([quick(1), late(2)], {
      planAgain: async () => {
        asked += 1;
        return [late(11)];
      },
    });
    expect([asked, played.end, open(played)]).toEqual([1, 'finished', []]);
    expect([...played.outcomes].map(([seq, { outcome }]) => [seq, outcome])).toEqual([[1, 'done'], [11, 'done']]); // prettier-ignore
  });

  it('takes what is best from then on after bad weather, not what was planned', async () => {
    const fromThen: number[] = [];
    const played = await at.play([quick(1), quick(2), quick(3, { panelId: 'b' })], {
      fault: { at: 2, fault: 'unsafe', forSec: 600 },
      planAgain: async (fromUtcMs) => {
        fromThen.push(fromUtcMs);
        // The planner's own time costs a simulated night none.
        await new Promise((resolve) => setTimeout(resolve, 1000));
        return [quick(9, { plannedStartUtcMs: fromUtcMs + 120_000, panelId: 'c', panelName: 'Heron' })];
      },
    });
    const isAfterHold = fromThen[0] > START + 1000 * (600 + 60 * SAFE_HOLD_MIN);
    expect({ isAfterHold, wentWrong: wentWrong(played) }).toEqual({ isAfterHold: true, wentWrong: [] });
    const said = played.actions.find(({ words }) => words.startsWith('The rest of the night is planned again'))!;
    expect(said.startUtcMs).toBeLessThan(fromThen[0]);
    expect(played.outcomes.get(9)!.outcome).toBe('done');
    expect(played.outcomes.has(3)).toBe(false);
    expect([played.end, open(played)]).toEqual(['finished', []]);
  });

  it('parks in wind with the roof open, and goes on when the air has been calm for long enough', async () => {
    const played = await at.play([quick(1), quick(2), quick(3)], { fault: { at: 2, fault: 'wind', forSec: 1200 } });
    const waited = played.actions.find(({ words }) => words.startsWith('for better conditions'))!;
    expect(waited.words).toMatch(/^for better conditions: wind of 1[2-9] m\/s$/);
    const ended = played.actions.find(({ id, outcome }) => id === waited.id && outcome !== null)!;
    // What is left of the wind, and five minutes of calm after it.
    expect((ended.endUtcMs! - ended.startUtcMs) / 60_000).toBeGreaterThan(20);
    expect(kinds(played).filter((kind) => kind === 'close roof')).toHaveLength(1);
    expect([played.end, played.truth.roof, violations(played), open(played)]).toEqual(['finished', 'closed', [], []]);
  });

  it('takes lost stars for cloud, and leaves a panel whose stars are lost again and again', async () => {
    const nightRules = nightRulesWith({
      starLossPercent: 20,
      starLossTries: 1,
      conditionsHoldMin: 2,
      cloudPausePercent: 95,
    });
    // Short exposures, in which stars are faint enough to be lost.
    const short = (seq: number, more: Partial<RunStep> = {}) =>
      quick(seq, { filterLetter: 'L', guide: false, exposureSec: 2, ...more });
    const other = short(4, { panelId: 'b', panelName: 'Heron' });
    const played = await at.play([short(1), short(2), short(3), other], {
      devices: { nightRules },
      fault: { at: 2, fault: 'cloud', forSec: 300 },
    });
    expect(played.actions.map(({ words }) => words)).toContainEqual(
      expect.stringMatching(/^for better conditions: \d+ of \d+ stars$/),
    );
    expect([1, 2, 3, 4].map((seq) => played.outcomes.get(seq)?.words.replace(/\d+ stars/, 'stars'))).toEqual([
      'Taken: stars',
      'Taken: stars',
      'Stars were lost once',
      'Taken: stars',
    ]);
    expect([played.end, violations(played)]).toEqual(['finished', []]);
  });

  it('begins in its own evening whatever the simulated clock says, and goes on by it where it was taken over', async () => {
    // A rig's clock begins at START; this night begins an hour earlier, as if it were asked for late.
    const early = (seq: number) => quick(seq, { plannedStartUtcMs: START - 3_600_000 + seq * 75_000 });
    const played = await at.play([early(1)], { rigName: 'late' });
    expect([played.outcomes.get(1)!.outcome, played.end]).toEqual(['done', 'finished']);
    const taken = await at.play([early(1)], { rigName: 'over', fence: 2 });
    expect(taken.outcomes.get(1)!.words).toBe('Not begun: its time had passed');
  });

  it('ends at a person’s word, closed', async () => {
    const played = await at.play(
      [1, 2, 3].map((seq) => quick(seq)),
      { stopAt: 2 },
    );
    expect([played.end, played.truth.roof, played.outcomes.size]).toEqual(['stopped', 'closed', 1]);
    expect(NIGHT_ENDS.stopped).toContain('closed');
  });

  it('never moves the roof over a mount that does not park, and says so', async () => {
    const played = await at.play([quick(1), quick(2)], {
      devices: { nightRules: nightRulesWith({ closingTries: 2 }) },
      fault: { at: 2, fault: 'mount stuck', forSec: 36_000 },
    });
    expect([played.end, played.truth.isParked]).toEqual(['not closed', false]);
    expect(played.truth.roof).toBe('open');
    expect(violations(played)).toEqual([]);
    expect(played.actions.some(({ words }) => words.includes('Someone must go there'))).toBe(true);
  });

  it.each([
    ['camera lost', 'lost'],
    ['slow answers', 'done'],
  ] as const)('goes on by rule after %s, closed at the end', async (fault, outcome) => {
    const played = await at.play(
      [1, 2].map((seq) => quick(seq)),
      { fault: { at: 1, fault, forSec: 20 } },
    );
    expect([played.end, played.truth.roof]).toEqual(['finished', 'closed']);
    expect(played.outcomes.get(1)!.outcome).toBe(outcome);
    expect(violations(played)).toEqual([]);
    expect(open(played)).toEqual([]);
  });
});
