import { describe, expect, it } from '@jest/globals';
import type { NightRun, RunAction, ShownOrder, SiteReading } from '@meridiem/contract';
import {
  actionWords,
  alarmWords,
  heldWords,
  isHeld,
  lastFacts,
  lastOrderWords,
  nowWords,
  outcomeWords,
  roofNow,
  tookWords,
} from './view-model.ts';

const START = Date.UTC(2026, 11, 8, 20, 30);
const action = (more: Partial<RunAction>): RunAction => ({
  id: 'a',
  seq: 1,
  kind: 'slew',
  words: 'Veil, panel 2',
  attempt: 1,
  startUtcMs: START,
  endUtcMs: START + 95_000,
  outcome: 'done',
  remark: null,
  ...more,
});
const running = { state: 'running' } as NightRun;

describe('a step in words', () => {
  it('says what it is about, how long it took, and what came of it', () => {
    expect(actionWords(action({}), 'UTC')).toBe('Slewing: Veil, panel 2');
    expect(actionWords(action({ kind: 'stow', words: '' }), 'UTC')).toBe('Parking the mount');
    expect(actionWords(action({ kind: 'wait', words: 'until 2026-12-08T10:13Z' }), 'Africa/Windhoek')).toBe(
      'Waiting: until 12:13',
    );
    expect(actionWords(action({ kind: 'note', words: 'Clouded over' }), 'UTC')).toBe('Clouded over');
    expect([
      tookWords(action({})),
      tookWords(action({ endUtcMs: START + 8000 })),
      tookWords(action({ endUtcMs: null })),
    ]).toEqual(['1 min 35 s', '8 s', '']);
    expect(outcomeWords(action({ remark: '12″ off' }))).toBe('12″ off');
    expect(outcomeWords(action({ outcome: 'failed', remark: 'no answer within 5 s', attempt: 2 }))).toBe(
      'failed, try 2: no answer within 5 s',
    );
    expect(outcomeWords(action({ outcome: null }))).toBe('under way');
    expect(outcomeWords(action({ outcome: 'unknown' }))).toBe('not known: the runner was lost');
  });
});

describe('a night being watched', () => {
  it('says what now, and since when', () => {
    const actions = [action({ kind: 'expose', outcome: null, endUtcMs: null }), action({})];
    expect(nowWords(running, actions, null, 'utc')).toBe('Exposing: Veil, panel 2, since 20:30:00.');
    expect(nowWords({ state: 'requested' } as NightRun, [], null, 'utc')).toBe('Waiting for the runner.');
    expect(nowWords(running, actions, 'closed early', 'utc')).toBe('The night ended early; the roof is closed.');
  });
  it('calls for a person until the night has ended closed', () => {
    const actions = [action({ kind: 'call', words: 'The roof could not be closed. Someone must go there.' })];
    expect(alarmWords(actions, null)).toContain('could not be closed');
    expect(alarmWords(actions, 'not closed')).toContain('someone must go there');
    expect(alarmWords(actions, 'finished')).toBeNull();
    expect(alarmWords([], null)).toBeNull();
  });
  it('has the newest figure of each kind with its time', () => {
    const actions = [
      action({ kind: 'focus', outcome: 'failed' }),
      action({ kind: 'focus', remark: '30120 steps', endUtcMs: START + 1000 }),
      action({ kind: 'focus', remark: '29000 steps' }),
    ];
    expect(lastFacts(actions)).toEqual([{ name: 'Focus', words: '30120 steps', utcMs: START + 1000 }]);
  });
  it('knows the roof by what was confirmed of it', () => {
    const [opened, closed] = [action({ kind: 'open roof' }), action({ kind: 'close roof' })];
    const words = (actions: RunAction[], site?: Partial<SiteReading>) => roofNow(actions, site as SiteReading).words;
    expect(words([action({}), closed, opened])).toBe('closed');
    expect(words([opened])).toBe('open');
    expect(words([{ ...closed, outcome: 'failed' }, opened])).toBe('not known');
    expect(words([])).toBe('not known');
    // A reading from before the roof was closed says nothing of it now; a later one does.
    expect(words([closed], { roof: 'open', utcMs: START })).toBe('closed');
    expect(words([closed], { roof: 'moving', utcMs: START + 200_000 })).toBe('moving');
    expect(words([], { roof: 'closed', utcMs: START })).toBe('closed');
  });
});

describe('what is said by hand', () => {
  const order = (kind: ShownOrder['kind'], by: string): ShownOrder => ({ kind, by, orderedUtcMs: START });
  it('holds until it is let go on, whatever else is said', () => {
    const orders = [order('leave', 'Sam'), order('hold', 'Petra'), order('resume', 'Ilse')];
    expect([isHeld(orders), isHeld(orders.slice(2)), isHeld([])]).toEqual([true, false, false]);
    expect(heldWords(orders)).toContain('Held by Petra');
    expect(lastOrderWords(orders)).toBe('Last by hand: Sam left a target for tonight.');
  });
});
