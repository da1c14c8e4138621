// Skies that are kept: the season is the same as if each had been looked at, and only what is new is looked at.
import { describe, expect, it } from '@jest/globals';
import { nightInstance } from '../../../../../bench/instances.ts';
import { nightDatePlus, observingNight } from '../../time/nights.ts';
import type { KeptSkies } from './kept-skies.ts';
import { keptSurvey } from './kept-skies.ts';
import type { SeasonRequest } from './season-of-nights.ts';
import { SEASON_SLOT_SEC, seasonOfNights } from './season-of-nights.ts';
import { HELPS, seasonWith } from './what-helps.ts';

const night = nightInstance({ seed: 5, goals: 16, night: 40 });
const projectId = night.projects[0].id;
const nights = Array.from({ length: 5 }, (_, i) => ({
  night: observingNight(nightDatePlus(night.night.nightDate, i), night.timeZone),
  odds: 0.5,
}));
const season: SeasonRequest = {
  rigs: [
    {
      rigId: 'rig',
      request: { ...night, rig: { ...night.rig, rotatorKind: 'hand', skyAngleDeg: 50, angleToleranceDeg: 60 } },
      acceptance: {},
      lastNight: { [projectId]: nights[2].night.nightDate },
      closed: [nights[3].night.nightDate],
      envelopeHours: { [projectId]: { dark: 1, bright: 1 } },
    },
  ],
  nights,
};

describe('kept skies', () => {
  it('make no season another one, whatever change is tried, in whatever order', () => {
    const kept: KeptSkies = new Map();
    expect(seasonOfNights(season, undefined, kept)).toEqual(seasonOfNights(season));
    for (const key of [...HELPS, ...HELPS.toReversed()]) {
      const changed = seasonWith(season, projectId, key);
      if (changed) expect(seasonOfNights(changed, undefined, kept)).toEqual(seasonOfNights(changed));
    }
  });

  it('look at a goal once, and at one with another limit again', () => {
    const kept: KeptSkies = new Map();
    const asked = { ...night, fromUtcMs: null };
    const first = keptSurvey(kept, 'rig', asked, SEASON_SLOT_SEC)!;
    const again = keptSurvey(kept, 'rig', { ...asked, goals: asked.goals.toReversed() }, SEASON_SLOT_SEC)!;
    expect(again.goals.toReversed().every((goal, g) => goal === first.goals[g])).toBe(true);
    const [goal] = asked.goals;
    const higher = { ...goal, limits: [{ scope: 'goal' as const, class: null, key: 'minAltitudeDeg' as const, value: 70 }] }; // prettier-ignore
    const changed = keptSurvey(kept, 'rig', { ...asked, goals: [higher, ...asked.goals.slice(1)] }, SEASON_SLOT_SEC)!;
    expect(changed.goals[0]).not.toBe(first.goals[0]);
    expect(changed.goals.slice(1).every((one, g) => one === first.goals[g + 1])).toBe(true);
    expect(keptSurvey(kept, 'another rig', asked, SEASON_SLOT_SEC)!.goals[0]).not.toBe(first.goals[0]);
  });

  it('know a night in which the sun does not set', () => {
    const kept: KeptSkies = new Map();
    const summer = {
      ...night,
      fromUtcMs: null,
      site: { latitudeDeg: 78, longitudeDeg: 15, elevationM: 0 },
      night: { nightDate: '2029-06-21', startUtcMs: Date.parse('2029-06-21T11:00Z'), endUtcMs: Date.parse('2029-06-22T11:00Z') }, // prettier-ignore
    };
    expect(keptSurvey(kept, 'rig', summer, SEASON_SLOT_SEC)).toBeNull();
    expect(keptSurvey(kept, 'rig', summer, SEASON_SLOT_SEC)).toBeNull();
    expect(kept.size).toBe(1);
  });
});
