import { describe, expect, it } from '@jest/globals';
import type { GivenVerdictBody } from '@meridiem/contract';
import {
  decadeBins,
  degreeChoices,
  disputeWords,
  histogramBars,
  pictureCaption,
  pointingFacts,
  saturatedWords,
  shownDeviation,
  sizeWords,
  trailEdges,
  trailWords,
  verdictLine,
} from './view-model.ts';

const verdict = (more: Partial<GivenVerdictBody>): GivenVerdictBody => ({
  verdict: 'rejected',
  reason: 'trail',
  by: 'Jonah Teague',
  byCoordinator: false,
  givenUtcMs: 0,
  ...more,
});

describe('an exposure in words', () => {
  it('says how far a figure is from what is usual, and on which side', () => {
    expect(shownDeviation({ figure: 'starSize', value: 2.36, usual: 2, sigmas: 4.1 })).toEqual({
      figure: 'star size',
      share: '+18 %',
      sigmas: '4.1 σ worse',
      isFar: true,
    });
    expect(shownDeviation({ figure: 'starCount', value: 90, usual: 100, sigmas: -0.4 })).toMatchObject({
      share: '−10 %',
      sigmas: '0.4 σ better',
      isFar: false,
    });
    expect(shownDeviation({ figure: 'guiding', value: 1, usual: 1, sigmas: 0 }).share).toBe('±0 %');
  });

  it('says where it points by its stars, or why nobody can say', () => {
    const pointing = {
      by: 'stars',
      raDeg: 83.633333,
      decDeg: 22.014444,
      starCount: 61,
      meanResidualArcsec: 0.214,
    } as never;
    const zeroPoint = { mag: 21.337, scatterMag: 0.031, starCount: 55 };
    const figures = { pointing, notSolved: null, zeroPoint } as never;
    expect(pointingFacts({ figures, offIntended: { arcmin: 0.36, turnedDeg: -0.12 } })).toEqual([
      ['points to', '05h 34m 32.0s, +22° 00′ 52″'],
      ['from its panel', '0.4′, turned by −0.1°'],
      ['known by', '61 stars, within 0.21″ on average'],
      ['zero point', '21.34 mag is one count a second'],
    ]);
    const written = {
      pointing: { ...(pointing as object), by: 'header', starCount: 0 },
      notSolved: null,
      zeroPoint: null,
    } as never;
    expect(pointingFacts({ figures: written, offIntended: null }).slice(1)).toEqual([
      ['known by', 'the coordinates written in its file'],
      ['zero point', 'none: no catalogue star is known in it'],
    ]);
    const not = { pointing: null, notSolved: '5 stars are too few to know a field by', zeroPoint: null } as never;
    expect(pointingFacts({ figures: not, offIntended: null })).toEqual([
      ['pointing', 'not solved: 5 stars are too few to know a field by'],
    ]);
    expect(pointingFacts({ figures: null, offIntended: null })).toEqual([]);
  });

  it('is looked at calibrated as far as frames for it have come, and says by what or what is missing', () => {
    const darks = { isPossible: true, words: '12 darks' };
    const some = { darks, full: { isPossible: false, words: 'no flats of its filter and angle have come here' } };
    expect(degreeChoices(some).map(({ isPossible }) => isPossible)).toEqual([true, true, false]);
    expect(pictureCaption('darks', some)).toMatch(/^Calibrated by 12 darks, and brightened/);
    expect(pictureCaption('none', some)).toMatch(/Not to be calibrated wholly: no flats of its filter and angle/);
    const all = { darks, full: { isPossible: true, words: '12 flats, 12 darks' } };
    expect(pictureCaption('full', all)).toMatch(/^Calibrated by 12 flats, 12 darks/);
    expect(pictureCaption('none', all)).toBe(pictureCaption('none', null));
  });

  it('marks a trail by a line on either side of it, its rows turned as pictures are drawn', () => {
    const trail = { fromX: 100, fromY: 0, toX: 100, toY: 299, sigmas: 14.2 };
    const edges = trailEdges({ trails: [trail], widthPx: 400, heightPx: 300 });
    expect(edges).toEqual([
      { x1: 106, y1: 299, x2: 106, y2: 0 },
      { x1: 94, y1: 299, x2: 94, y2: 0 },
    ]);
    expect(trailWords([trail])).toBe('A trail crosses it: a satellite or an aircraft, 14 σ over the sky’s noise.');
    expect(trailWords([trail, { ...trail, sigmas: 30 }])).toMatch(/^2 trails cross it: .* the brightest 30 σ/);
  });

  it('names who gave each verdict', () => {
    expect(verdictLine(verdict({}))).toBe('rejected by Jonah Teague: trail');
    expect(verdictLine(verdict({ by: null, reason: 'focus' }))).toBe('rejected by a rule: focus');
    expect(verdictLine(verdict({ byCoordinator: true }))).toContain(', coordinator');
    expect(verdictLine(verdict({ reason: 'withdrawn' }))).toBe('Jonah Teague withdrew the verdict before');
  });

  it('says where member and coordinator disagree, and whose word counts', () => {
    const accepted = verdict({ verdict: 'accepted', by: 'Ilse Marwick', byCoordinator: true });
    expect(disputeWords([verdict({}), accepted])).toContain('Jonah Teague says rejected, Ilse Marwick says accepted');
    expect(disputeWords([verdict({ verdict: 'accepted' }), accepted])).toBeNull();
    expect(disputeWords([verdict({ by: null }), accepted])).toBeNull();
    expect(disputeWords([])).toBeNull();
  });

  it('draws every count, and says how much is burnt out', () => {
    const figures = { histogram: { to: 10_000, counts: [9, 0, 0, 99], saturatedShare: 0 } };
    expect(histogramBars(figures).map(({ bin, value, height }) => [bin, Math.round(value), height])).toEqual([
      [0, 3, 1],
      [1, 32, 0],
      [2, 316, 0],
      [3, 3162, 2],
    ]);
    expect(decadeBins(figures)).toEqual([10, 100, 1000, 10_000].map((value, i) => ({ bin: i + 1, value })));
    expect([saturatedWords(0), saturatedWords(0.00001), saturatedWords(0.0123)]).toEqual([
      'none',
      'under 0.01 %',
      '1.23 %',
    ]);
    expect([sizeWords(420_000), sizeWords(1_440_000)]).toEqual(['420 kB', '1.4 MB']);
  });
});
