import { describe, expect, it } from '@jest/globals';
import type { CalibratedLight, CalibrationSet } from './owed.ts';
import { nightRulesWith } from '../night/night-rules.ts';
import { CALIBRATION_RULES, calibrationNeeds, calibrationRulesOf } from './owed.ts';
import { setsToTake } from './to-take.ts';

const READ = { gain: 100, offset: 30, binning: 1, region: null };
const light = (more: Partial<CalibratedLight> = {}): CalibratedLight => ({ ...READ, filterId: 'L', opticsId: 'a', mechanicalAngleDeg: 0, utcMs: 1e12, exposureSec: 300, sensorC: -10, ...more }); // prettier-ignore
const set = (kind: CalibrationSet['kind'], count: number, more: Partial<CalibrationSet> = {}): CalibrationSet => ({ ...light(), id: kind, kind, count, ...more }); // prettier-ignore

const shown = (sets: ReturnType<typeof setsToTake>): string[] =>
  sets.map(({ kind, filterId, exposureSec, sensorC, count }) => [count, kind, filterId, `${exposureSec} s`, sensorC].filter((part) => part !== null).join(' ')); // prettier-ignore

describe('calibration that a rig takes by itself', () => {
  it('is flats by filter, then bias, then darks by length and temperature, the quickest first', () => {
    const needs = calibrationNeeds([light(), light({ exposureSec: 120 }), light({ sensorC: 0 }), light({ filterId: 'R' })], []); // prettier-ignore
    const sets = setsToTake(needs);
    expect(shown(sets)).toEqual([
      '10 flat L 1 s',
      '10 flat R 1 s',
      '20 bias 0 s',
      '10 dark 120 s -10',
      '10 dark 300 s -10',
      '10 dark 300 s 0',
    ]);
    expect(sets[0]).toMatchObject({ gain: 100, offset: 30, binning: 1 });
  });

  it('is what a set lacks where there is one; nothing where all is there; the whole again where it is too old', () => {
    const days = (count: number): number => 1e12 - count * 86_400_000;
    const lacking = (...sets: CalibrationSet[]): string[] =>
      shown(setsToTake(calibrationNeeds([light()], [set('flat', 10, { exposureSec: 2 }), set('dark', 10, { exposureSec: 2 }), ...sets]))); // prettier-ignore
    expect(lacking(set('dark', 7), set('bias', 20))).toEqual(['3 dark 300 s -10']);
    expect(lacking(set('dark', 10), set('bias', 20))).toEqual([]);
    const old = set('dark', 10, { utcMs: days(CALIBRATION_RULES.keepsDays.dark + 1) });
    expect(lacking(old, set('bias', 20))).toEqual(['10 dark 300 s -10']);
  });

  it('is flats at each angle of the camera on the telescope, also half a turn apart; not again after a flip', () => {
    const at = (mechanicalAngleDeg: number) => light({ mechanicalAngleDeg });
    const flats = (...lights: CalibratedLight[]): (number | null)[] =>
      setsToTake(calibrationNeeds(lights, [])).flatMap(({ kind, mechanicalAngleDeg }) => (kind === 'flat' ? [mechanicalAngleDeg] : [])); // prettier-ignore
    expect(flats(at(30), at(210))).toEqual([30, 210]);
    expect(flats(at(30), at(31), at(30))).toEqual([30]);
    expect(flats(at(359), at(0.5))).toEqual([359]);
    const done = set('flat', 10, { mechanicalAngleDeg: 30 });
    expect(setsToTake(calibrationNeeds([at(30), at(210)], [done])).filter(({ kind }) => kind === 'flat').map(({ mechanicalAngleDeg }) => mechanicalAngleDeg)).toEqual([210]); // prettier-ignore
  });

  it('begins flats with the length that served last', () => {
    const old = set('flat', 10, { exposureSec: 4.5, utcMs: 1e12 - 400 * 86_400_000 });
    expect(shown(setsToTake(calibrationNeeds([light()], [old])))[0]).toBe('10 flat L 4.5 s');
  });

  it('covers darks that flats ask for, once where lights ask for the same', () => {
    const flats = set('flat', 10, { exposureSec: 4 });
    expect(shown(setsToTake(calibrationNeeds([light()], [flats])))).toEqual(['20 bias 0 s', '10 dark 4 s -10', '10 dark 300 s -10']); // prettier-ignore
    expect(setsToTake(calibrationNeeds([light({ exposureSec: 4 })], [flats]))).toHaveLength(2);
  });

  it('is read from the same part of the sensor', () => {
    const region = { widthPx: 800, heightPx: 600 };
    const sets = setsToTake(calibrationNeeds([light(), light({ region })], []));
    expect(sets.filter(({ kind }) => kind === 'bias').map((one) => one.region)).toEqual([null, region]);
  });

  it('is as many as the rig’s own numbers ask for', () => {
    const rules = calibrationRulesOf(nightRulesWith({ flatsFewest: 25, biasFewest: 50, flatsAngleWithinDeg: 10 }));
    const needs = calibrationNeeds([light(), light({ mechanicalAngleDeg: 9 })], [], rules);
    expect(shown(setsToTake(needs, rules))).toEqual(['25 flat L 1 s', '50 bias 0 s', '10 dark 300 s -10']);
  });

  it('is nothing where nobody wrote down how the lights were read', () => {
    for (const unknown of [{ gain: null }, { offset: null }])
      expect(setsToTake(calibrationNeeds([light(unknown)], []))).toEqual([]);
    expect(setsToTake(calibrationNeeds([light({ sensorC: null, filterId: null })], [])).map(({ kind }) => kind)).toEqual(['bias']); // prettier-ignore
  });
});
