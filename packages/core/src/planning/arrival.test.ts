import { describe, expect, it } from '@jest/globals';
import { nightInstance } from '../../../../bench/instances.ts';
import { DEFAULT_ARRIVAL, stayChain } from './arrival.ts';
import { nightProblem } from './night/night-problem.ts';
import { surveyNight } from './night/survey.ts';

const own = [
  { moment: 'arriving', words: 'look at the dew heater' },
  { moment: 'after_wait', words: 'open the cover' },
  { moment: 'before_wait', words: 'close the cover' },
] as const;
const around = { switches: DEFAULT_ARRIVAL, rotates: false, own, waitsBefore: false, waitsAfter: false, parking: null };

describe('the chain around a stay', () => {
  it('guides, centres and focuses unless switched off', () => {
    expect(stayChain(around).arriving).toEqual([
      'slew and settle',
      'centre',
      'set the filter',
      'focus',
      'start guiding',
      'look at the dew heater',
    ]);
    const bare = { guide: false, centre: false, focus: false };
    expect(stayChain({ ...around, switches: bare, own: [] }).arriving).toEqual(['slew and settle', 'set the filter']);
  });

  it('has the steps of a wait only where the rig waits', () => {
    const waited = stayChain({ ...around, waitsBefore: true, waitsAfter: true });
    expect(waited.arriving[0]).toBe('open the cover');
    expect(waited.leaving).toEqual(['stop guiding', 'close the cover']);
    expect(stayChain(around).leaving).toEqual(['stop guiding']);
  });

  it('ends the night parked, as far as anyone has said where', () => {
    const leaving = (stow: { altitudeDeg: number; azimuthDeg: number } | null, roofClears: 'any' | 'stowed') =>
      stayChain({ ...around, parking: { stow, roofClears } }).leaving;
    const at = { altitudeDeg: 20, azimuthDeg: 180 };
    expect(leaving(at, 'any')).toEqual(['stop guiding', 'park at altitude 20°, azimuth 180°']);
    expect(leaving(at, 'stowed').slice(1)).toEqual(['park at altitude 20°, azimuth 180°', 'only then close the roof']);
    expect(leaving(null, 'stowed').slice(1)).toEqual(['park', 'only then close the roof']);
    expect(leaving(null, 'any')).toEqual(['stop guiding']);
  });

  it('costs less time where steps are left out', () => {
    const request = nightInstance({ seed: 2, goals: 12, night: 18 });
    const survey = surveyNight(request)!;
    const cost = (arrival: typeof DEFAULT_ARRIVAL): number => {
      const projects = request.projects.map((project) => ({ ...project, arrival }));
      return nightProblem({ ...request, projects }, survey).panelChangeSec[0][0];
    };
    expect(cost(DEFAULT_ARRIVAL) - cost({ ...DEFAULT_ARRIVAL, centre: false })).toBeCloseTo(
      request.rig.costs.centreSec,
      0,
    );
    expect(cost(DEFAULT_ARRIVAL) - cost({ ...DEFAULT_ARRIVAL, guide: false })).toBeCloseTo(
      request.rig.costs.guidingStartSec,
      0,
    );
  });
});
