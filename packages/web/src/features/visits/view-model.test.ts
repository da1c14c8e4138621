import { describe, expect, it } from '@jest/globals';
import type { Filter, Rig, Visit, VisitJob } from '@meridiem/contract';
import type { Equipment } from './view-model.ts';
import {
  exchangeable,
  flatsWords,
  hoursWords,
  missedWords,
  outcomeWords,
  plannedJob,
  stageOf,
  typedDegrees,
  workWords,
} from './view-model.ts';

const filter = (letter: string): Filter => ({ id: `id-${letter}`, letter, name: letter }) as Filter;
const equipment: Equipment = {
  filters: ['L', 'B', 'Ha'].map(filter),
  rigs: [
    {
      id: 'wren',
      name: 'Wren',
      skyAngleDeg: 15,
      angleToleranceDeg: 2,
      drawtubeMm: 80,
      mirrors: 'even',
      slots: [
        { slot: 1, filterId: 'id-L', focusOffsetSteps: 0 },
        { slot: 3, filterId: 'id-B', focusOffsetSteps: null },
      ],
    } as unknown as Rig,
  ],
};
const [wren] = equipment.rigs;
const job = (fields: Partial<VisitJob> = {}): VisitJob => ({
  id: 'job',
  rigId: 'wren',
  work: 'angle',
  skyAngleDeg: 118,
  fitsId: null,
  removesId: null,
  words: '',
  state: 'open',
  settledByName: null,
  settledUtcMs: null,
  measuredDeg: null,
  frameUtcMs: null,
  ...fields,
});
const turned = (skyAngleDeg: number | null): Equipment => ({ ...equipment, rigs: [{ ...wren, skyAngleDeg }] });

describe('work to be done', () => {
  it('is a turn with degrees, direction and millimetres, the shorter way', () => {
    // 103° further frames the same sky as 77° back; π · 80 mm · 77 / 360.
    expect(workWords(job(), equipment)).toMatch(/^Turn the camera from 15\.0° to 118\.0°, by 77\.0° clockwise, seen from behind it: 53\.8 mm/); // prettier-ignore
    const odd = { ...equipment, rigs: [{ ...wren, mirrors: 'odd' as const }] };
    expect(workWords(job(), odd)).toMatch(/77\.0° counter-clockwise/);
  });

  it('says so where the angle is unknown, reached already, or its tube was never measured', () => {
    expect(workWords(job(), turned(null))).toMatch(/never measured/);
    expect(workWords(job(), turned(298))).toMatch(/is at 118\.0° already/);
    expect(workWords(job(), { ...equipment, rigs: [{ ...wren, drawtubeMm: null }] })).toMatch(/no millimetres/);
  });

  it('is an exchange with the place in the wheel', () => {
    const exchange = job({ work: 'filter', skyAngleDeg: null, fitsId: 'id-Ha', removesId: 'id-B' });
    expect(workWords(exchange, equipment)).toBe('Put Ha in the place of B, place 3');
    expect(workWords({ ...exchange, removesId: null }, equipment)).toBe('Put Ha into a free place of the wheel');
    expect(workWords(job({ work: 'mask', skyAngleDeg: null }), equipment)).toBe('Mask');
  });

  it('leaves flats to be taken: of every filter after a turn, of the new one after an exchange', () => {
    expect(flatsWords(job(), equipment)).toBe('New flats afterwards: L, B');
    expect(flatsWords(job({ work: 'filter', fitsId: 'id-Ha' }), equipment)).toBe('New flats afterwards: Ha');
    expect(flatsWords(job({ work: 'cleaning' }), equipment)).toMatch(/L, B/);
    expect(flatsWords(job({ work: 'focus' }), equipment)).toBeNull();
  });
});

describe('what came of it', () => {
  it('names the angle and who or what measured it', () => {
    const done = job({ state: 'done', settledByName: 'Petra Lindholm', measuredDeg: 117.62 });
    expect(outcomeWords(job())).toBeNull();
    expect(outcomeWords(done)).toBe('Done: 117.62°, measured by Petra Lindholm');
    expect(outcomeWords({ ...done, frameUtcMs: 1 })).toBe(
      'Done: 117.62°, measured on a frame, confirmed by Petra Lindholm',
    );
    expect(outcomeWords({ ...done, work: 'focus', measuredDeg: null })).toBe('Done, says Petra Lindholm');
    expect(outcomeWords({ ...done, state: 'left' })).toBe('Left undone, says Petra Lindholm');
  });

  it('says when an angle was missed by more than the rig tolerates, upside down or not', () => {
    expect(missedWords(job(), 119.9, equipment)).toBeNull();
    expect(missedWords(job(), 299, equipment)).toBeNull();
    expect(missedWords(job(), 121, equipment)).toMatch(/^3\.0° away from 118\.0°, more than the tolerance of 2\.0°/);
  });
});

describe('a visit', () => {
  const visit = (nightDate: string, jobs: VisitJob[]): Visit => ({ id: 'v', version: 1, nightDate, goesId: null, goesName: null, words: '', jobs }); // prettier-ignore

  it('is planned, overdue, or over once all of its work is settled', () => {
    const tonight = '2027-01-10';
    expect(stageOf(visit('2027-01-10', [job()]), tonight)).toBe('planned');
    expect(stageOf(visit('2027-01-09', [job(), job({ state: 'done' })]), tonight)).toBe('overdue');
    expect(stageOf(visit('2027-01-12', [job({ state: 'left' }), job({ state: 'done' })]), tonight)).toBe('over');
    expect(stageOf(visit('2027-01-12', []), tonight)).toBe('planned');
  });

  it('that is advised says what it unlocks and blocks, and becomes one to be planned', () => {
    const hours = [
      { projectId: 'a', name: 'Lantern', hours: 14.21 },
      { projectId: null, name: null, hours: 3 },
      { projectId: 'b', name: 'Reed Cloud', hours: -4.1 },
    ];
    expect(hoursWords(hours)).toBe('unlocks 14.2 h of Lantern, 3.0 h of others’ private projects; blocks 4.1 h of Reed Cloud'); // prettier-ignore
    expect(hoursWords(hours.slice(2))).toBe('blocks 4.1 h of Reed Cloud');
    const advised = { rigId: 'wren', skyAngleDeg: 118, fitsId: null, removesId: null, gainHours: 9, hours };
    expect(plannedJob(advised)).toEqual({ rigId: 'wren', work: 'angle', skyAngleDeg: 118, fitsId: null, removesId: null, words: '' }); // prettier-ignore
    expect(plannedJob({ ...advised, skyAngleDeg: null, fitsId: 'id-Ha', removesId: 'id-B' }).work).toBe('filter');
  });
});

describe('what is typed and chosen', () => {
  it('takes degrees within a turn and nothing else', () => {
    expect(['118.4', '118,4°', ' 0 '].map(typedDegrees)).toEqual([118.4, 118.4, 0]);
    expect(['', '360', '-1', 'east', 'NaN'].map(typedDegrees)).toEqual([null, null, null, null, null]);
  });

  it('puts in what is outside the wheel, in the place of what is in it', () => {
    const { fits, removes } = exchangeable(equipment, wren);
    expect(fits.map(({ letter }) => letter)).toEqual(['Ha']);
    expect(removes.map(({ letter }) => letter)).toEqual(['L', 'B']);
  });
});
