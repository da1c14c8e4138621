// Every fault of the second observatory in every step it can meet, judged by that observatory's own eyes: one in twenty in the usual tests,
// all of them with --long.
import { afterEach, beforeEach, describe, expect, it } from '@jest/globals';
import type { StepKind } from '@meridiem/core';
import { NIGHT_END_KINDS, seededRandom } from '@meridiem/core';
import type { PlainSite } from '../../test/plain-night.ts';
import { MIDNIGHT, openPlainSite, planned } from '../../test/plain-night.ts';
import { PLAIN_FAULTS } from '../../test/plain-observatory.ts';

const MET: readonly StepKind[] = ['connect', 'wait', 'cool', 'open roof', 'unstow', 'slew', 'filter', 'focus', 'solve', 'centre', 'guide', 'settle', 'expose', 'download', 'dither', 'stow', 'close roof', 'warm up']; // prettier-ignore
const LASTS_SEC = 300;
const IS_LONG = process.env.MERIDIEM_LONG === '1';
const SHARE = 0.05;

const cases = PLAIN_FAULTS.flatMap((fault) => MET.map((during) => ({ fault, during })));
const random = seededRandom(Number(process.env.MERIDIEM_SEED ?? 1));
const chosen = IS_LONG ? cases : cases.filter(() => random() < SHARE);

/** Two exposures of one panel, then two of another ten minutes later. */
const plan = () => {
  const other = { panelId: 'b', panelName: 'Veil, panel 2' };
  return [
    planned(1),
    planned(2),
    planned(3, { ...other, plannedStartUtcMs: MIDNIGHT + 1_000_000 }),
    planned(4, { ...other, plannedStartUtcMs: MIDNIGHT + 1_030_000 }),
  ];
};

let at: PlainSite;
beforeEach(async () => void (at = await openPlainSite({ isHeld: true })));
afterEach(() => at.close());

describe('a fault at an observatory of another make', () => {
  it.each(chosen)('"$fault" while "$during" breaks no rule of the site', async ({ fault, during }) => {
    const { end, actions, outcomes } = await at.play(plan(), {
      onAction: ({ kind, outcome }) => kind === during && outcome === null && at.breaks(fault, LASTS_SEC),
    });
    expect(at.plain.wrong).toEqual([]);
    const closed = new Set(actions.filter(({ outcome }) => outcome).map(({ id }) => id));
    expect(actions.filter(({ id }) => !closed.has(id))).toEqual([]);
    expect([...outcomes.keys()].sort()).toEqual([1, 2, 3, 4]);
    expect(NIGHT_END_KINDS).toContain(end);
    expect(at.plain.minders.size).toBeLessThanOrEqual(1);
    // What could not be closed is a roof or a mount that did not move, or that could not be told to.
    if (end === 'not closed') expect(['roof stuck', 'mount stuck', 'errors', 'line cut']).toContain(fault);
    else expect([at.plain.roof(), at.plain.isParked()]).toEqual(['closed', true]);
  });
});
