import { describe, expect, it } from '@jest/globals';
import { proposedOf, settingOf } from './limit-setting.ts';

describe('a typed limit', () => {
  it('is a value, or off', () => {
    expect(settingOf('minAltitudeDeg', '32,5°')).toEqual({ value: 32.5 });
    expect(settingOf('notBeforeClockMin', '22:00')).toEqual({ value: 1320 });
    expect(settingOf('minAltitudeDeg', 'off')).toEqual({ off: true });
  });

  it('is refused in words where it can not be read', () =>
    expect(() => settingOf('notBeforeClockMin', 'late')).toThrow(
      '"late" is no clock time; write one like 22:00, or off',
    ));

  it('is tried while it is typed, as soon as it can be read', () => {
    expect(proposedOf('minAltitudeDeg', '30')).toBe(30);
    expect(proposedOf('minAltitudeDeg', 'off')).toBeNull();
    expect(proposedOf('minAltitudeDeg', '3o')).toBeUndefined();
    expect(proposedOf('minAltitudeDeg', '300')).toBeUndefined();
  });
});
