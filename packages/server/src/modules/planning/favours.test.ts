// What a night's request makes of grades, own ranks, multipliers and grants.
import { describe, expect, it } from '@jest/globals';
import type { Observatory, Rig } from '@meridiem/contract';
import { DEFAULT_STEP_COSTS, exposureCycleSec, observingNight } from '@meridiem/core';
import type { Queries } from '../../database/connection.ts';
import { clockHours, withinGrants } from './favours.ts';
import type { GoalRow } from './goals-repository.ts';
import { exposuresLeft, nightRequest, standingReason } from './request.ts';

const row = (fields: Partial<GoalRow> = {}): GoalRow => ({
  goalId: `goal of ${fields.projectId ?? 'p1'}`,
  panelId: `panel of ${fields.projectId ?? 'p1'}`,
  panelName: 'one',
  raDeg: 10,
  decDeg: -30,
  positionAngleDeg: 0,
  orbit: null,
  projectId: 'p1',
  projectName: 'One',
  ownerId: 'ana',
  ownerName: 'Ana',
  private: false,
  state: 'granted',
  resting: false,
  counting: 'all',
  grade: 2,
  lastNight: null,
  decayNights: null,
  ownRank: 2,
  envelope: null,
  panelOrder: 'free',
  filterGroup: 0,
  arrival: { guide: true, centre: true, focus: true },
  filterId: 'L',
  filterLetter: 'L',
  filterClass: 'broadband',
  enabled: true,
  fitted: true,
  wanted: 60,
  exposureSec: 120,
  pauseSec: 0,
  shareRead: 1,
  ditherEvery: 3,
  binning: 1,
  gain: 100,
  sensorC: -10,
  readNoiseE: 1.5,
  accepted: 0,
  undecided: 0,
  rejected: 0,
  ...fields,
});

const rig = { id: 'rig', slots: [], costs: DEFAULT_STEP_COSTS } as unknown as Rig;
const observatory = {
  id: 'here',
  latitudeDeg: -31,
  longitudeDeg: 136,
  elevationM: 200,
  timeZone: 'Australia/Adelaide',
  tonight: '2026-11-29',
  zenithMagV: 21.8,
  horizon: [],
  bounds: { sunAltitudeMaxDeg: -9, mountAltitudeMinDeg: 15, mountZenithHoleDeg: 0 },
  filters: [],
} as unknown as Observatory;
const requestOf = (rows: readonly GoalRow[], multipliers?: ReadonlyMap<string, number>) =>
  nightRequest({ observatory, rig, night: observingNight('2026-11-29', observatory.timeZone), fromUtcMs: null, rows, limits: [], multipliers }); // prettier-ignore
const weightsOf = (rows: readonly GoalRow[], multipliers?: ReadonlyMap<string, number>) =>
  Object.fromEntries(requestOf(rows, multipliers).projects.map(({ id, weight }) => [id, weight]));

describe('a project’s weight in a night', () => {
  it('is its grade where nothing else is said', () => {
    expect(weightsOf([row(), row({ projectId: 'p2', grade: 3 }), row({ projectId: 'p3', grade: 1 })])).toEqual({ p1: 1, p2: 2, p3: 0.5 }); // prettier-ignore
  });

  it('follows its owner’s own order, and nobody else’s', () => {
    const weights = weightsOf([
      row({ ownRank: 3 }),
      row({ projectId: 'p2', ownRank: 1 }),
      row({ projectId: 'p3', ownerId: 'ben' }),
    ]);
    expect(weights.p1 / weights.p2).toBeCloseTo(1.5 / 0.67);
    expect((weights.p1 + weights.p2) / 2).toBeCloseTo(1);
    expect(weights.p3).toBe(1);
  });

  it('gains nothing where its owner puts everything first', () => {
    expect(weightsOf([row({ ownRank: 3 }), row({ projectId: 'p2', ownRank: 3 })])).toEqual({ p1: 1, p2: 1 });
  });

  it('is multiplied by what its owner’s hours count', () => {
    const weights = weightsOf([row(), row({ projectId: 'p2', ownerId: 'ben' })], new Map([['p1', 1.4], ['p2', 0.8]])); // prettier-ignore
    expect(weights).toEqual({ p1: 1.4, p2: 0.8 });
  });
});

describe('what is not offered to the planner', () => {
  it('is named by the first thing that keeps it out', () => {
    expect(standingReason(row())).toBeNull();
    expect(standingReason(row({ state: 'proposed', resting: true }))).toBe('NOT_GRANTED');
    expect(standingReason(row({ resting: true, enabled: false }))).toBe('RESTING');
    expect(standingReason(row({ enabled: false }))).toBe('SWITCHED_OFF');
    expect(standingReason(row({ envelope: { dark: 0, bright: 0 }, fitted: false }))).toBe('ENVELOPE_USED');
    expect(standingReason(row({ fitted: false }))).toBe('FILTER_NOT_FITTED');
    expect(standingReason(row({ envelope: { dark: 0, bright: 3 } }))).toBeNull();
  });

  it('asks for nothing, though something is left of it', () => {
    const resting = row({ resting: true });
    expect(requestOf([resting]).goals[0].toPlan).toBe(0);
    expect(exposuresLeft(resting, [resting])).toBe(60);
  });
});

describe('what grants hold', () => {
  const noSetting = { models: { Setting: { findOne: async () => null } } } as unknown as Queries;
  const cappedOf = async (rows: readonly GoalRow[]) => withinGrants(noSetting, 'here', requestOf(rows), rows);

  it('bounds a night’s counts by the hours they buy', async () => {
    const rows = [row({ envelope: { dark: 0.5, bright: 0 } }), row({ projectId: 'p2' })];
    const { goals } = await cappedOf(rows);
    const cycleSec = exposureCycleSec(rig.costs, goals[0].settings);
    expect(goals[0].toPlan).toBe(Math.ceil(60 * Math.min(1, 1800 / (60 * cycleSec))));
    expect(goals[0].toPlan).toBeLessThan(60);
    expect(goals[1].toPlan).toBe(60);
  });

  it('buys twice the moonlit hours for the same charge', async () => {
    const [dark] = (await cappedOf([row({ envelope: { dark: 0.5, bright: 0 } })])).goals;
    const [bright] = (await cappedOf([row({ envelope: { dark: 0, bright: 0.5 } })])).goals;
    expect(bright.toPlan).toBeGreaterThan(1.8 * dark.toPlan);
    expect(clockHours(3, 0.5)).toBe(6);
    expect(clockHours(3, 0)).toBeGreaterThan(1e5);
  });

  it('changes nothing where it is wide or there is none', async () => {
    const rows = [row({ envelope: { dark: 100, bright: 0 } }), row({ projectId: 'p2' })];
    expect((await cappedOf(rows)).goals).toEqual(requestOf(rows).goals);
    const open = [row()];
    expect(await cappedOf(open)).toEqual(requestOf(open));
  });
});
