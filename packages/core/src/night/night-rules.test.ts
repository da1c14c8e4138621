import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { mayResume, NIGHT_RULE_NAMES, NIGHT_RULES, nightRuleFault, nightRulesWith, pauseWords } from './night-rules.ts';

const usual = nightRulesWith({});
const calm = { windMPerSec: 3, cloudCoverPercent: 0, temperatureC: 8 };

describe('the numbers of a night', () => {
  it('have a usual value that is right beside the others', () => {
    for (const name of NIGHT_RULE_NAMES)
      expect([name, nightRuleFault(usual, name, NIGHT_RULES[name].usual)]).toEqual([name, null]);
    expect(nightRulesWith({ safeHoldMin: 45 })).toEqual({ ...usual, safeHoldMin: 45 });
  });
  it('are refused outside their bounds, and where a night would go on as it pauses', () => {
    expect(nightRuleFault(usual, 'focusAfterC', 0)).toBe('from 0.2 to 30 °C');
    expect(nightRuleFault(usual, 'windResumeMPerSec', 12)).toBe('at most 11 m/s, as “Wind: pause above” says');
    expect(nightRuleFault(usual, 'windPauseMPerSec', 7)).toBe('at least 8 m/s, as “Wind: go on below” says');
    expect(nightRuleFault(usual, 'coldPauseC', -20)).toBe('at most -22 °C, as “Cold: go on above” says');
    expect(nightRuleFault(usual, 'windPauseMPerSec', Number.NaN)).not.toBeNull();
  });
});

describe('the air', () => {
  it('stops a night with its reason, and what is not measured stops nothing', () => {
    expect(pauseWords(usual, calm)).toBeNull();
    expect(pauseWords(usual, { ...calm, windMPerSec: 11.4 })).toBe('wind of 11 m/s');
    expect(pauseWords(usual, { ...calm, cloudCoverPercent: 80 })).toBe('80 % cloud');
    expect(pauseWords(usual, { ...calm, temperatureC: -27 })).toBe('air at −27 °C');
    const unknown = { windMPerSec: null, cloudCoverPercent: null, temperatureC: null };
    expect([pauseWords(usual, unknown), mayResume(usual, unknown)]).toEqual([null, true]);
  });
  it('never lets a night go on where it would stop it, whatever the numbers', () => {
    const air = fc.record({
      windMPerSec: fc.double({ min: 0, max: 40, noNaN: true }),
      cloudCoverPercent: fc.double({ min: 0, max: 100, noNaN: true }),
      temperatureC: fc.double({ min: -40, max: 30, noNaN: true }),
    });
    const changed = fc.tuple(fc.constantFrom(...NIGHT_RULE_NAMES), fc.double({ min: -60, max: 100, noNaN: true }));
    fc.assert(
      fc.property(fc.array(changed, { maxLength: 8 }), air, (changes, now) => {
        let rules = usual;
        for (const [name, value] of changes)
          if (nightRuleFault(rules, name, value) === null) rules = { ...rules, [name]: value };
        expect(pauseWords(rules, now) !== null && mayResume(rules, now)).toBe(false);
      }),
    );
  });
});
