import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import type { Goal } from '@meridiem/contract';
import {
  asTyped,
  bandsOf,
  countsForDepth,
  depthProblems,
  depthWords,
  nextHoursWords,
  ofWords,
  readWanted,
  runsOf,
  scaleBar,
  wantedWords,
} from './view-model.ts';

describe('bands of depth', () => {
  it('have round edges, each with the share that is at least so deep', () => {
    const bands = bandsOf([null, 24.6, 25.1, 25.3, 25.9]);
    expect(bands.map(({ fromMag }) => fromMag)).toEqual([24.5, 24.75, 25, 25.25, 25.5, 25.75]);
    expect(bands.map(({ share }) => share)).toEqual([1, 0.75, 0.75, 0.5, 0.25, 0.25]);
    expect(bandsOf([null, null])).toEqual([]);
  });

  it('are few, and hold every depth there is', () =>
    fc.assert(
      fc.property(fc.array(fc.double({ min: 20, max: 28, noNaN: true }), { minLength: 1 }), (mags) => {
        const bands = bandsOf(mags);
        expect(bands.length).toBeLessThanOrEqual(10);
        expect(bands[0].share).toBe(1);
        const drawn = runsOf(mags, mags.length, bands);
        expect(drawn.reduce((sum, { length }) => sum + length, 0)).toBe(mags.length);
      }),
    ));
});

describe('runs of cells', () => {
  it('join what lies side by side in one band, and leave out what was not gathered', () => {
    const cells = [25, 25, null, 25, 25, 26];
    expect(runsOf(cells, 3, bandsOf(cells))).toEqual([
      { column: 0, row: 0, length: 2, band: 0 },
      { column: 0, row: 1, length: 2, band: 0 },
      { column: 2, row: 1, length: 1, band: 4 },
    ]);
  });
});

describe('beside the map', () => {
  it('stands a round length, and how many exposures tell', () => {
    expect(scaleBar({ stepDeg: 0.05, across: 48 })).toEqual({ cells: 10, words: '30′' });
    expect(scaleBar({ stepDeg: 0.1, across: 40 }).words).toBe('1°');
    expect([ofWords({ measured: 43, exposures: 61 }), ofWords({ measured: 1, exposures: 1 })]).toEqual(['43 of 61 exposures', '1 of 1 exposure']); // prettier-ignore
  });
});

describe('the next hours', () => {
  it('gain by the root of the time, most where least was gathered', () => {
    // 100 exposures of 360 s are 10 h: two more are a root of 1.2; one hour becomes three.
    const deep = { letter: 'L', exposureSec: 3600, measured: 10, exposures: 100 };
    const thin = { letter: 'B', exposureSec: 3600, measured: 10, exposures: 10 };
    const untold = { letter: 'R', exposureSec: 0, measured: 0, exposures: 12 };
    expect(nextHoursWords([deep, thin, untold])).toBe('B +73 %, L +10 %');
    expect(nextHoursWords([untold])).toBeNull();
  });
});

describe('a depth that is wanted', () => {
  const filter = { letter: 'L', cells: [null, 25, 25.5, 26, 26.5], exposureSec: 36_000, measured: 60, exposures: 60 };

  it('says what it takes over a share of the field, from what is there', () => {
    // Half of the field is as deep as 26: another 1.25 mag takes ten times the exposure, nine times more.
    expect(depthWords({ mag: '27.25', percent: '50' }, filter)).toBe(
      '0 % of the field is as deep. It takes about 90.0 h more in L under skies like these, 540 exposures as long as those that are there: 10.0 times what there is.',
    );
    expect(depthWords({ mag: '25,5', percent: '75' }, filter)).toBe('Reached: 75 % of the field is as deep in L.');
  });

  it('says nothing of what is not typed, and what is wrong at its field', () => {
    expect(depthWords({ mag: '', percent: '90' }, filter)).toBeNull();
    expect(depthProblems({ mag: '', percent: '90' })).toEqual({});
    expect(depthProblems({ mag: 'deep', percent: '0' })).toEqual({ mag: expect.stringContaining('15 to 35'), percent: expect.stringContaining('1 to 100') }); // prettier-ignore
    expect(depthWords({ mag: '99', percent: '90' }, filter)).toBeNull();
  });

  it('is read as typed, and said', () => {
    expect(readWanted({ mag: '26,5', percent: '90' })).toEqual({ mag: 26.5, share: 0.9 });
    expect([readWanted({ mag: '', percent: '90' }), readWanted({ mag: '26', percent: '0' })]).toEqual([null, null]);
    expect(asTyped({ mag: 26.5, share: 0.9 })).toEqual({ mag: '26.5', percent: '90' });
    expect(asTyped(null)).toEqual({ mag: '', percent: '90' });
    expect(wantedWords({ mag: 26.5, share: 0.9 })).toBe('26.5 mag/″² over 90 % of the field');
  });

  it('is what is missing in counts, spread over the panels; goals with enough or without end stay', () => {
    const goal = (accepted: number, wanted: number | null) => ({ wanted, tally: { accepted, undecided: 0 } }) as Goal;
    const goals = [goal(10, 40), goal(3, 700), goal(0, 40), goal(10, null)];
    // Half of the field is as deep as 26: another 1.25 mag takes ten times the exposure, 540 more, 135 a panel.
    const counts = countsForDepth(goals, filter, { mag: 27.25, share: 0.5 });
    expect(counts).toEqual([
      { goal: goals[0], count: 145 },
      { goal: goals[2], count: 135 },
    ]);
    expect(countsForDepth(goals, filter, { mag: 25, share: 0.5 })).toEqual([]);
    expect(countsForDepth(goals, { cells: [null], measured: 0 }, { mag: 27, share: 0.5 })).toEqual([]);
  });

  it('counts only what files tell, and says how many do not', () => {
    const some = { ...filter, exposures: 100 };
    expect(depthWords({ mag: '27.25', percent: '50' }, some)).toContain(
      'by the 60 whose files tell; 40 more make it deeper',
    );
  });
});
