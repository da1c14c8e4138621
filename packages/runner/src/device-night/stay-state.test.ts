import { describe, expect, it } from '@jest/globals';
import { nightRulesWith } from '@meridiem/core';
import { step } from '../../test/night-harness.ts';
import type { ExposureOutcome } from './context.ts';
import { stayState } from './stay-state.ts';

const rules = nightRulesWith({});
const taken = (more: { halfFluxRadiusPx?: number | null; starCount?: number; guidingRmsArcsec?: number | null } = {}) =>
  ({ outcome: 'done', words: '', frame: null, exposure: { halfFluxRadiusPx: 2, starCount: 100, guidingRmsArcsec: 0.6, ...more } }) as unknown as ExposureOutcome; // prettier-ignore
const l = step(1, { filterLetter: 'L' });
const r = step(2, { filterLetter: 'R' });

describe('a stay', () => {
  it('counts stars that are lost as cloud, filter by filter', () => {
    const state = stayState(rules);
    expect([state.takeIn(l, taken()), state.takeIn(r, taken({ starCount: 30 }))]).toEqual([null, null]);
    expect(state.takeIn(l, taken({ starCount: 41 }))).toBeNull();
    expect(state.takeIn(l, taken({ starCount: 39 }))).toBe('39 of 100 stars');
    expect(state.takeIn(l, { ...taken(), exposure: null })).toBeNull();
  });
  it('focuses again after time, change of the air, or growth in one filter; a focus begins anew', () => {
    const state = stayState(rules);
    expect(state.focusDue({ utcMs: 1e12, airC: 0 }, 60)).toBeNull();
    state.focused({ utcMs: 0, airC: 10 });
    expect(state.focusDue({ utcMs: 3_599_000, airC: 8.1 }, 60)).toBeNull();
    expect(state.focusDue({ utcMs: 3_601_000, airC: 10 }, 60)).toBe('60 minutes have passed');
    expect(state.focusDue({ utcMs: 3_601_000, airC: null }, 0)).toBeNull();
    expect(state.focusDue({ utcMs: 0, airC: 7.9 }, 0)).toBe('the air has changed by 2.1 °C');
    state.takeIn(l, taken());
    state.takeIn(r, taken({ halfFluxRadiusPx: 2.6 }));
    expect(state.focusDue({ utcMs: 0, airC: 10 }, 0)).toBeNull();
    state.takeIn(l, taken({ halfFluxRadiusPx: 2.6 }));
    expect(state.focusDue({ utcMs: 0, airC: 10 }, 0)).toBe('stars have grown by 30 %');
    state.focused({ utcMs: 0, airC: 10 });
    expect(state.focusDue({ utcMs: 0, airC: 10 }, 0)).toBeNull();
  });
  it('counts bad guiding in a row, and a good exposure ends the row', () => {
    const state = stayState(rules);
    for (const guidingRmsArcsec of [3.1, 4]) state.takeIn(l, taken({ guidingRmsArcsec }));
    expect(state.badGuiding).toBe(2);
    state.takeIn(l, taken({ guidingRmsArcsec: null }));
    expect(state.badGuiding).toBe(0);
  });
});
