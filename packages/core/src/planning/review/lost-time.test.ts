import { describe, expect, it } from '@jest/globals';
import { INTERRUPTION_WORDS, LEFT_BY_HAND, WAIT_WORDS } from '../../night/interruptions.ts';
import type { NightAction, NightRecord } from './lost-time.ts';
import { lostTime } from './lost-time.ts';

const action = (kind: NightAction['kind'], startUtcMs: number, endUtcMs: number, more: Partial<NightAction> = {}): NightAction => ({ kind, words: '', startUtcMs, endUtcMs, outcome: 'done', remark: null, ...more }); // prettier-ignore
const record = (actions: NightAction[], more: Partial<NightRecord> = {}): NightRecord => ({
  ...{ actions, taken: [], madeAgain: [], givenUp: [], endedAs: 'finished' },
  ...more,
});
const broken = (why: keyof typeof INTERRUPTION_WORDS): Partial<NightAction> => ({ outcome: 'interrupted', remark: INTERRUPTION_WORDS[why] }); // prettier-ignore

describe('time lost in a night', () => {
  it('weather lasts from what it broke off until the site is open again', () => {
    const { spans } = lostTime(
      record([
        action('expose', 0, 100),
        action('expose', 110, 150, broken('unsafe')),
        action('stow', 150, 160),
        action('close roof', 160, 170),
        action('wait', 170, 900, { words: `${WAIT_WORDS.safety} for 20 minutes` }),
        action('open roof', 900, 940),
        action('unstow', 940, 950),
        action('slew', 950, 980),
        action('expose', 990, 1090),
      ]),
      2000,
    );
    expect(spans).toEqual([{ cause: 'weather', startUtcMs: 150, endUtcMs: 950, isPassing: false }]);
  });

  it('a failed try is a delay; a step whose end is unknown lasts until the next one', () => {
    const { spans } = lostTime(
      record([
        action('solve', 0, 30, { outcome: 'failed', remark: 'no stars' }),
        action('solve', 30, 50),
        action('expose', 60, 60, { outcome: 'unknown' }),
        action('connect', 400, 410),
      ]),
      2000,
    );
    expect(spans).toEqual([
      { cause: 'fault', startUtcMs: 0, endUtcMs: 30, isPassing: true },
      { cause: 'fault', startUtcMs: 60, endUtcMs: 400, isPassing: false },
    ]);
  });

  it('a hold by hand, and a night stopped before its end, are time lost by hand', () => {
    const held = lostTime(
      record(
        [action('wait', 100, 400, { words: WAIT_WORDS.held }), action('expose', 420, 500, broken('stopped'))],
        { endedAs: 'stopped' }, // prettier-ignore
      ),
      2000,
    );
    expect(held.spans).toEqual([
      { cause: 'hand', startUtcMs: 100, endUtcMs: 400, isPassing: false },
      { cause: 'hand', startUtcMs: 500, endUtcMs: 2000, isPassing: false },
    ]);
  });

  it('the time between two runs is lost as the first one ended', () => {
    const breaks = [{ cause: 'hand' as const, startUtcMs: 300, endUtcMs: 900 }];
    const { spans } = lostTime(record([action('expose', 100, 300), action('connect', 900, 910)], { breaks }), 2000);
    expect(spans).toEqual([{ cause: 'hand', startUtcMs: 300, endUtcMs: 900, isPassing: false }]);
  });

  it('a night that closed early for its devices lost the rest by a fault; for its sky by weather', () => {
    const endOf = (last: NightAction): string =>
      lostTime(record([last, action('close roof', 300, 340)], { endedAs: 'closed early' }), 2000).spans.at(-1)!.cause;
    expect(endOf(action('slew', 100, 300, { outcome: 'failed', remark: 'the mount does not answer' }))).toBe('fault');
    expect(endOf(action('wait', 100, 300, { words: `${WAIT_WORDS.safety} for 20 minutes` }))).toBe('weather');
  });

  it('names panels that were left, from when and why', () => {
    const { left } = lostTime(
      record(
        [
          action('solve', 0, 30, { outcome: 'failed', remark: 'no stars' }),
          action('slew', 100, 120, broken('left')),
          action('expose', 200, 300, { outcome: 'failed', remark: 'no picture' }),
        ],
        {
          givenUp: [
            { panelId: 'a', words: 'no stars' },
            { panelId: 'a', words: 'no stars' },
            { panelId: 'b', words: LEFT_BY_HAND },
            { panelId: 'c', words: 'The exposure failed: no picture' },
          ],
        },
      ),
      2000,
    );
    expect(left).toEqual([
      { panelId: 'a', fromUtcMs: 30, cause: 'fault' },
      { panelId: 'b', fromUtcMs: 120, cause: 'hand' },
    ]);
  });
});
