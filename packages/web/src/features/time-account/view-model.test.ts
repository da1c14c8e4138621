import { describe, expect, it } from '@jest/globals';
import type { Stretch } from './view-model.ts';
import { duesOf, hoursByKind, lineWords, linesOf, ruleFrom, standingWords, summedHours } from './view-model.ts';

const stretch = (
  kind: Stretch['kind'],
  skyClass: Stretch['skyClass'],
  startMin: number,
  endMin: number,
  projectName: string | null = 'A',
): Stretch => ({
  kind,
  skyClass,
  startUtcMs: startMin * 60_000,
  endUtcMs: endMin * 60_000,
  projectId: projectName,
  projectName,
});

describe('the hours of a night', () => {
  const spent = [
    { kind: 'idle', skyClass: 'day', hours: 13 },
    { kind: 'visit', skyClass: 'day', hours: 1 },
    { kind: 'exposing', skyClass: 'dark', hours: 5 },
    { kind: 'exposing', skyClass: 'bright', hours: 2 },
  ] as const;
  it('leave the idle day out, and keep work by day', () => {
    expect(hoursByKind({ spent: [...spent] })).toMatchObject({ idle: 0, visit: 1, exposing: 7 });
    expect(summedHours([{ spent: [...spent] }, { spent: [...spent] }]).exposing).toBe(14);
  });
});

describe('the lines of a night', () => {
  it('tell a stay in one line, its moonlit part named', () => {
    const lines = linesOf([
      stretch('idle', 'dark', 0, 60, null),
      stretch('overhead', 'dark', 60, 62),
      stretch('exposing', 'dark', 62, 70),
      stretch('exposing', 'bright', 70, 92),
      stretch('exposing', 'dark', 92, 100, 'B'),
    ]);
    expect(lines.map(lineWords)).toEqual([
      'idle 1 h 00 min',
      '30 min exposing, 2 min overhead, moon up 22 min',
      '8 min exposing, 0 min overhead',
    ]);
  });
  it('part where the sun comes up', () => {
    const lines = linesOf([stretch('idle', 'bright', 0, 60, null), stretch('idle', 'day', 60, 120, null)]);
    expect(lines.map(lineWords)).toEqual(['idle 1 h 00 min, moon up', 'idle 1 h 00 min, sun up']);
  });
});

describe('words of the account', () => {
  it('say what waits to be closed', () => {
    expect(standingWords([{ state: 'ahead' }])).toBe('None of these nights is over yet.');
    expect(standingWords([{ state: 'closed' }, { state: 'closed' }])).toBe('All 2 nights are closed.');
    expect(standingWords([{ state: 'open' }, { state: 'closed' }])).toMatch(/^1 of 2 nights is to be closed/);
  });
  it('give dues where there are any', () => {
    const rule = { dark: 1, bright: 0.5, duesPerHour: 3, currency: 'EUR' };
    expect(duesOf({ chargedHours: 2.5 }, rule)).toBe('7.50 EUR');
    expect(duesOf({ chargedHours: 2.5 }, { ...rule, duesPerHour: null })).toBeNull();
  });
  it('read the charging rule as typed', () => {
    expect(ruleFrom({ dark: '1', bright: '0,5', duesPerHour: '', currency: '' })).toEqual({
      dark: 1,
      bright: 0.5,
      duesPerHour: null,
      currency: '',
    });
    expect(ruleFrom({ dark: 'x', bright: '1', duesPerHour: '', currency: '' })).toBeUndefined();
  });
});
