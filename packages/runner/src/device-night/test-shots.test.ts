// By hand in a held night: pointed and photographed within the limits, looked at, and counted for nobody.
import { readdir } from 'node:fs/promises';
import { afterEach, beforeEach, describe, expect, it } from '@jest/globals';
import type { StandingOrders, TestShot, TestShotEnd } from '@meridiem/contract';
import type { TestSite } from '../../test/night-harness.ts';
import { open, openSite, step, target, violations } from '../../test/night-harness.ts';

let at: TestSite;
beforeEach(async () => void (at = await openSite()));
afterEach(() => at.close());

const shotAt = (id: string, place: TestShot['at'], more: Partial<TestShot> = {}): TestShot => ({
  ...{ id, at: place, exposureSec: 5, filterLetter: null, binning: 1 },
  ...more,
});
const near = { raDeg: target.raDeg + 3, decDeg: target.decDeg };

/** Held from the first exposure on, until each of the shots has an outcome. */
async function heldWith(shots: readonly TestShot[], more: Parameters<TestSite['play']>[1] = {}) {
  const ends: TestShotEnd[] = [];
  const orders: { -readonly [K in keyof StandingOrders]: StandingOrders[K] } = {
    ...{ holdId: 'hold', leaveId: null, isLast: false },
    testShot: shots[0],
  };
  const shotEnded = (end: TestShotEnd): void => {
    ends.push(end);
    orders.testShot = shots[ends.length] ?? null;
    if (ends.length === shots.length) orders.holdId = null;
  };
  const played = await at.play([step(1, { focus: false })], { orders, shotEnded, ...more });
  return { played, ends };
}

describe('test shots by hand', () => {
  it('are taken where they are asked for, and the night goes on at its own target', async () => {
    const { played, ends } = await heldWith([
      shotAt('there', near, { filterLetter: 'R' }),
      shotAt('again', null, { binning: 2 }),
      shotAt('pointed', target, { exposureSec: null }),
    ]);
    expect(ends.map(({ shotId, outcome, words }) => `${shotId}, ${outcome}: ${words.replace(/[\d.]+/g, 'n')}`)).toEqual(
      [
        'there, done: n stars, half-flux radius n px',
        'again, done: n stars, half-flux radius n px',
        'pointed, done: pointed there',
      ],
    );
    const [{ picture }] = ends;
    expect(Buffer.from(picture!.base64, 'base64')).toHaveLength(picture!.widthPx * picture!.heightPx);
    const slews = played.actions.filter(({ kind, outcome }) => kind === 'slew' && outcome === 'done');
    expect(slews.map(({ words }) => words).slice(0, 2)).toEqual(['by hand', 'by hand']);
    expect([played.outcomes.get(1)!.outcome, played.end, open(played), violations(played)]).toEqual([
      'done',
      'finished',
      [],
      [],
    ]);
    expect(await readdir(`${at.folder}/Wren/2026-12-08`)).toHaveLength(1);
  });

  it('are refused in words where the night’s own exposures would be', async () => {
    const { played, ends } = await heldWith([
      shotAt('below', { raDeg: (target.raDeg + 180) % 360, decDeg: -target.decDeg }),
      shotAt('no filter', near, { filterLetter: 'Ha' }),
    ]);
    expect(ends.map(({ shotId, outcome, words, picture }) => [shotId, outcome, words, picture])).toEqual([
      ['below', 'refused', expect.stringMatching(/^the target would be at -?\d+°$/), null],
      ['no filter', 'refused', 'Ha is in no place of the wheel', null],
    ]);
    expect([played.outcomes.get(1)!.outcome, played.end, violations(played)]).toEqual(['done', 'finished', []]);
  });

  it('end with a sky that turns unsafe: parked and closed, before anything else', async () => {
    // Slow enough for the sky to turn within the exposure, however late the word of it comes.
    const { played, ends } = await heldWith([shotAt('caught', near, { exposureSec: 120 })], {
      speed: 600,
      fault: { during: 'expose', fault: 'unsafe', forSec: 600 },
    });
    expect(ends.map(({ outcome, words }) => `${outcome}: ${words}`)).toEqual(['refused: the sky is not safe']);
    const done = played.actions.filter(({ outcome }) => outcome === 'done').map(({ kind }) => kind);
    expect(done.indexOf('close roof')).toBeLessThan(done.indexOf('expose'));
    expect([played.outcomes.get(1)!.outcome, played.truth.roof, violations(played)]).toEqual(['done', 'closed', []]);
  });
});
