// Visits in a season: what they change holds from their night on and not before, whatever the order they were planned in.
import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { nightInstance } from '../../../../../bench/instances.ts';
import { angleApartDeg } from '../../framing/angle.ts';
import { nightDatePlus, observingNight } from '../../time/nights.ts';
import type { SeasonVisit, VisitedRig } from './rig-visits.ts';
import { servedOn, waitsForVisit } from './rig-visits.ts';
import type { SeasonRequest, SeasonRig } from './season-of-nights.ts';
import { seasonOfNights } from './season-of-nights.ts';

const hand: VisitedRig['rig'] = { rotatorKind: 'hand', skyAngleDeg: 10, angleToleranceDeg: 3 };
const visit = (nightDate: string, fields: Partial<SeasonVisit> = {}): SeasonVisit => ({
  nightDate,
  skyAngleDeg: null,
  fits: [],
  removes: [],
  ...fields,
});
const rigWith = (fields: Partial<VisitedRig>): VisitedRig => ({ rig: hand, notFitted: [], visits: [], ...fields });

describe('what a rig serves', () => {
  it('is what stands at its angle now, upside down as well, until a visit turns it', () => {
    const rig = rigWith({ visits: [visit('2027-01-05', { skyAngleDeg: 100 })] });
    const served = (nightDate: string): boolean[] =>
      [10, 190, 13.1, 100, 281].map((angle) => servedOn(rig, nightDate)(angle, 'L'));
    expect(served('2027-01-04')).toEqual([true, true, false, false, false]);
    expect(served('2027-01-05')).toEqual([false, false, false, true, true]);
    expect(served('2027-03-01')).toEqual([false, false, false, true, true]);
  });

  it('knows filters put in and taken out, each from its night on', () => {
    const visits = [visit('2027-01-08', { fits: ['B'], removes: ['Ha'] }), visit('2027-01-05', { fits: ['Ha'], removes: ['B'] })]; // prettier-ignore
    const rig = rigWith({ notFitted: ['Ha'], visits });
    const fitted = (nightDate: string): string[] =>
      ['L', 'B', 'Ha'].filter((filter) => servedOn(rig, nightDate)(10, filter));
    expect(fitted('2027-01-04')).toEqual(['L', 'B']);
    expect(fitted('2027-01-06')).toEqual(['L', 'Ha']);
    expect(fitted('2027-01-08')).toEqual(['L', 'B']);
  });

  it('is nothing where the angle was never measured, and every angle where a motor turns the camera', () => {
    const unknown = rigWith({
      rig: { ...hand, skyAngleDeg: null },
      visits: [visit('2027-01-05', { skyAngleDeg: 40 })],
    });
    expect(servedOn(unknown, '2027-01-04')(10, 'L')).toBe(false);
    expect(servedOn(unknown, '2027-01-05')(41, 'L')).toBe(true);
    expect(servedOn(rigWith({ rig: { ...hand, rotatorKind: 'motor' } }), '2027-01-04')(77, 'L')).toBe(true);
  });

  it('follows the last turn until the night, in whatever order visits are given (any visits)', () => {
    const day = fc.integer({ min: 0, max: 40 });
    const turn = fc.record({ at: day, skyAngleDeg: fc.integer({ min: 0, max: 179 }) });
    fc.assert(
      fc.property(
        fc.uniqueArray(turn, { selector: ({ at }) => at, maxLength: 6 }),
        day,
        fc.integer({ min: 0, max: 359 }),
        (turns, night, angle) => {
          const dated = (at: number): string => nightDatePlus('2027-01-01', at);
          const rig = rigWith({ visits: turns.map(({ at, skyAngleDeg }) => visit(dated(at), { skyAngleDeg })) });
          const last = turns.filter(({ at }) => at <= night).reduce<{ at: number; skyAngleDeg: number } | null>((a, b) => (a && a.at > b.at ? a : b), null); // prettier-ignore
          const standsAt = last?.skyAngleDeg ?? 10;
          expect(servedOn(rig, dated(night))(angle, 'L')).toBe(angleApartDeg(angle, standsAt) <= 3);
        },
      ),
    );
  });
});

describe('what waits for a visit', () => {
  const rig = rigWith({
    notFitted: ['Ha'],
    visits: [visit('2027-01-09', { fits: ['Ha'] }), visit('2027-01-05', { skyAngleDeg: 100 })],
  });

  it('is what is not served now and is served after one', () => {
    expect(waitsForVisit(rig, 100, 'L')).toBe('2027-01-05');
    expect(waitsForVisit(rig, 100, 'Ha')).toBe('2027-01-09');
  });

  it('is neither what is served now nor what no visit helps', () => {
    expect(waitsForVisit(rig, 10, 'L')).toBeNull();
    expect(waitsForVisit(rig, 55, 'L')).toBeNull();
    expect(waitsForVisit(rig, 10, 'Ha')).toBeNull();
  });
});

describe('a season with visits', () => {
  const night = nightInstance({ seed: 5, goals: 16, night: 40 });
  const angles = new Map(night.panels.map(({ id }, i) => [id, i % 2 === 0 ? 20 : 110]));
  const request = {
    ...night,
    rig: { ...night.rig, rotatorKind: 'hand' as const, skyAngleDeg: 20, angleToleranceDeg: 2 },
    panels: night.panels.map((panel) => ({ ...panel, positionAngleDeg: angles.get(panel.id)! })),
  };
  const seasonWith = (fields: Partial<SeasonRig>): SeasonRequest => ({
    rigs: [{ rigId: 'rig', request, acceptance: {}, ...fields }],
    nights: Array.from({ length: 6 }, (_, i) => ({
      night: observingNight(nightDatePlus(night.night.nightDate, i), night.timeZone),
      odds: 0.5,
    })),
  });
  const turnedBefore = nightDatePlus(night.night.nightDate, 3);

  it('has before each visit the light of the old angle and afterwards that of the new, slot by slot', () => {
    const { problem } = seasonOfNights(seasonWith({ visits: [visit(turnedBefore, { skyAngleDeg: 110 })] }));
    const before = seasonOfNights(seasonWith({})).problem;
    const after = seasonOfNights(seasonWith({ request: { ...request, rig: { ...request.rig, skyAngleDeg: 110 } } })).problem; // prettier-ignore
    problem.lanes.forEach(({ rates }, l) => expect(rates).toEqual((l < 3 ? before : after).lanes[l].rates));
    // Either angle has light to lose.
    expect(before.lanes[1].rates.some((rate) => rate > 0)).toBe(true);
    expect(after.lanes[4].rates.some((rate) => rate > 0)).toBe(true);
    expect(before.lanes[4].rates).not.toEqual(after.lanes[4].rates);
  });

  it('has a filter’s light only while it is in the wheel', () => {
    const filterId = request.goals[0].filterId;
    const { problem, goalIds } = seasonOfNights(seasonWith({ notFitted: [filterId], visits: [visit(turnedBefore, { fits: [filterId] })] })); // prettier-ignore
    const own = goalIds.flatMap((id, g) => (request.goals.find((goal) => goal.id === id)!.filterId === filterId ? [g] : [])); // prettier-ignore
    const lit = (lane: number): boolean =>
      own.some((g) => {
        const { slots, rates } = problem.lanes[lane];
        const row = problem.goals[g].row;
        return rates.subarray(row * slots, (row + 1) * slots).some((rate) => rate > 0);
      });
    expect([0, 1, 2].some(lit)).toBe(false);
    expect([3, 4, 5].some(lit)).toBe(true);
  });
});
