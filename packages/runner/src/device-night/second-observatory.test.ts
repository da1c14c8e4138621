// The same nights against a second implementation of the protocol that shares no code with the simulated observatory, by a clock
// that nobody holds: what the runner does is not made to one observatory's measure.
import { mkdtemp, readdir, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, it } from '@jest/globals';
import type { ClaimedRun, DeviceRun, RunAction, RunStep, StandingOrders } from '@meridiem/contract';
import { apparentSiderealDeg, frameOfDate, nightRulesWith, wrap180, wrap360 } from '@meridiem/core';
import { deviceRun, step } from '../../test/night-harness.ts';
import type { PlainFaults, PlainObservatory } from '../../test/plain-observatory.ts';
import { plainObservatory } from '../../test/plain-observatory.ts';
import type { ExposureOutcome } from './context.ts';
import { runDeviceNight } from './run-device-night.ts';

const SPEED = 60;
/** The slower of these nights: with --long. */
const long = process.env.MERIDIEM_LONG === '1' ? it : it.skip;
const MIDNIGHT = Date.parse('2026-12-08T00:00Z');
/** In midsummer's night of the south, the site where this moment is midnight. */
const site = { latitudeDeg: -30, longitudeDeg: wrap180(-15 * ((MIDNIGHT % 86_400_000) / 3_600_000)), elevationM: 900 };
/** Near the zenith then. */
const overhead = {
  raDeg: wrap360(apparentSiderealDeg(frameOfDate(MIDNIGHT), MIDNIGHT) + site.longitudeDeg - 8),
  decDeg: -38,
};
let beganMs: number;
const now = (): number => MIDNIGHT + (performance.now() - beganMs) * SPEED;
const sleep = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms / SPEED));

let plain: PlainObservatory;
let folder: string;
beforeEach(async () => {
  isBroken = false;
  beganMs = performance.now();
  plain = await plainObservatory(now, site);
  folder = await mkdtemp(join(tmpdir(), 'plain-'));
});
afterEach(async () => {
  await plain.close();
  await rm(folder, { recursive: true });
});

const planned = (seq: number, more: Partial<RunStep> = {}): RunStep =>
  step(seq, { ...overhead, plannedStartUtcMs: MIDNIGHT + 1000 * (300 + 30 * seq), exposureSec: 20, focus: seq === 1, positionAngleDeg: 40, ...more }); // prettier-ignore

interface Told {
  readonly devices?: Partial<DeviceRun>;
  readonly onBegin?: (seq: number) => void;
  readonly onAction?: (action: RunAction) => void;
  readonly orders?: StandingOrders;
}

async function play(steps: readonly RunStep[], { devices, onBegin, onAction, orders }: Told = {}) {
  const actions: RunAction[] = [];
  const outcomes = new Map<number, ExposureOutcome>();
  const nightRules = nightRulesWith({ coolingLeadMin: 2, safeHoldMin: 2, closingTries: 1, closingPauseMin: 0.5 });
  const run = {
    id: 'run', fence: 1, speed: 1, leaseSec: 20, nightDate: '2026-12-07', rehearsal: false,
    rig: { id: 'plain', name: 'Plain', imageScaleArcsec: 3.5 },
    deviceRun: deviceRun(plain.baseUrl, {
      isSimulated: false, site, nightRules, endUtcMs: MIDNIGHT + 3_600_000, rotatorKind: 'none', flips: false,
      park: { altitudeDeg: 0, azimuthDeg: 90 }, ...devices,
    }),
    steps: [...steps],
  } as unknown as ClaimedRun; // prettier-ignore
  const end = await runDeviceNight(run, {
    framesFolder: folder,
    sleep,
    nowUtcMs: now,
    report: (action) => {
      actions.push(action);
      onAction?.(action);
    },
    isStopped: () => false,
    ...(orders ? { standing: () => orders } : {}),
    begin: ({ seq }) => onBegin?.(seq),
    finish: ({ seq }, outcome) => void outcomes.set(seq, outcome),
  });
  const done = actions.filter(({ outcome }) => outcome === 'done').map(({ kind }) => kind);
  return { end, actions, outcomes, done };
}

let isBroken = false;
/** Once a night. */
const breaks = (fault: PlainFaults, forSec: number): void => {
  if (isBroken) return;
  isBroken = true;
  Object.assign(plain.faults, fault);
  const whole = Object.fromEntries(Object.keys(fault).map((name) => [name, false]));
  setTimeout(() => Object.assign(plain.faults, whole), (1000 * forSec) / SPEED);
};

describe('a night at an observatory of another make', () => {
  it('opens, focuses, corrects a pointing that is off by a quarter of a degree, exposes, and closes', async () => {
    const { end, done, outcomes, actions } = await play([planned(1), planned(2), planned(3)]);
    expect([end, plain.roof(), plain.isParked(), plain.wrong]).toEqual(['finished', 'closed', true, []]);
    expect([...outcomes.values()].map(({ words }) => words)).toEqual(Array(3).fill(expect.stringMatching(/^Taken: \d+ stars$/))); // prettier-ignore
    expect(
      actions.flatMap(({ kind, outcome, remark }) => (outcome === 'failed' ? [`${kind}: ${remark}`] : [])),
    ).toEqual([]);
    for (const kind of ['connect', 'cool', 'open roof', 'unstow', 'slew', 'focus', 'solve', 'centre', 'guide', 'filter', 'dither', 'stow', 'close roof', 'warm up'])
      expect(done).toContain(kind); // prettier-ignore
    expect(actions.find(({ kind, outcome }) => kind === 'centre' && outcome === 'done')!.remark).toMatch(/^(7|8|9)\d\d″ off, \d″ after correcting$/); // prettier-ignore
    const focused = actions.find(({ kind, outcome }) => kind === 'focus' && outcome === 'done')!.remark!;
    expect(focused).toMatch(/^(199|200)\d\d steps/); // prettier-ignore
    expect(await readdir(join(folder, 'Plain', '2026-12-07'))).toHaveLength(3);
    // The second filter's own focus, 60 steps from the first's.
    expect(plain.focusSteps() - Number(/^\d+/.exec(focused)![0])).toBe(60);
    expect(plain.minders.size).toBe(1);
  });

  it('closes when the sky turns unsafe, and exposes again when it has been safe for long enough', async () => {
    const later = [1, 2, 3].map((seq) => planned(seq, { plannedStartUtcMs: MIDNIGHT + 1000 * (300 + 200 * seq) }));
    const { end, done } = await play(later, { onBegin: (seq) => seq === 2 && breaks({ unsafe: true }, 100) });
    expect(done.filter((kind) => kind === 'close roof')).toHaveLength(2);
    expect(done.filter((kind) => kind === 'open roof')).toHaveLength(2);
    expect([end, plain.roof(), plain.wrong]).toEqual(['finished', 'closed', []]);
  });

  it('leaves a project where a person must turn the camera, and says by how much', async () => {
    const { actions, outcomes, end } = await play([planned(1, { positionAngleDeg: 90 })]);
    expect(actions.some(({ words }) => /is left for tonight: the camera must be turned by 50\.0°/.test(words))).toBe(
      true,
    );
    expect([outcomes.get(1)!.outcome, end, plain.roof()]).toEqual(['lost', 'finished', 'closed']);
  });

  long('never moves the roof over a mount that does not park, and calls a person', async () => {
    const { end, actions } = await play([planned(1), planned(2)], { onBegin: (seq) => seq === 2 && breaks({ mountStuck: true }, 7200) }); // prettier-ignore
    expect([end, plain.roof(), plain.wrong]).toEqual(['not closed', 'open', []]);
    expect(actions.some(({ kind }) => kind === 'call')).toBe(true);
  });

  long(
    'goes on by rule after its camera was silent, and stops after the exposure under way at a person’s word',
    async () => {
      const orders = { holdId: null, leaveId: null, isLast: false };
      const other = planned(2, { panelId: 'b', plannedStartUtcMs: MIDNIGHT + 1000 * 900 });
      const { end, outcomes } = await play([planned(1), other, planned(3, { panelId: 'b', plannedStartUtcMs: MIDNIGHT + 1000 * 930 })], {
      orders,
      onBegin: (seq) => {
        if (seq === 1) breaks({ cameraSilent: true }, 60);
        if (seq === 2) orders.isLast = true;
      },
    }); // prettier-ignore
      expect([outcomes.get(1)!.outcome, outcomes.get(2)!.outcome, outcomes.has(3)]).toEqual(['lost', 'done', false]);
      expect([end, plain.roof(), plain.isParked(), plain.wrong]).toEqual(['stopped', 'closed', true, []]);
    },
  );
});
