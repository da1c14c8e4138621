import { describe, expect, it } from '@jest/globals';
import { otherRigs } from './other-rigs.ts';
import type { SeasonFacts } from './season-facts.ts';

const optics = { focalLengthMm: 500, pixelUm: 4, widthPx: 3000, heightPx: 2000 };
const rig = (id: string, more: object = {}) => ({
  id,
  ...optics,
  slots: [{ filterId: 'R' }, { filterId: 'Ha' }],
  cameraModes: [{ id: `${id} mode`, readNoiseE: 1.6 }],
  ...more,
});
const recipe = (rigId: string, filterId: string | null, more: object = {}) => ({
  ...{ rigId, filterId, kind: 'light', ownerId: null, cameraModeId: `${rigId} mode`, binning: 1 },
  ...more,
});
const factsOf = (rigs: object[], recipes: object[]): SeasonFacts =>
  ({
    observatory: { rigs, recipes },
    rowsOf: (rigId: string) => (rigId === 'own' ? [{ projectId: 'p' }] : []),
  }) as unknown as SeasonFacts;

describe('another rig', () => {
  it('is one whose field holds the project’s, with the recipes that everybody may use of the filters in its wheel', () => {
    const facts = factsOf(
      [rig('own'), rig('wide', { focalLengthMm: 400 }), rig('alike'), rig('narrow', { focalLengthMm: 700 })],
      [
        recipe('wide', 'R', { binning: 2 }),
        recipe('wide', 'R', { binning: 4 }),
        recipe('wide', 'OIII'),
        recipe('wide', 'Ha', { ownerId: 'a member' }),
        recipe('wide', 'Ha', { kind: 'flat' }),
        recipe('alike', 'Ha', { cameraModeId: 'retired' }),
        recipe('own', 'R'),
      ],
    );
    expect(otherRigs(facts, 'p')).toEqual([
      { rigId: 'wide', recipes: { R: { binning: 2, readNoiseE: 1.6 } } },
      { rigId: 'alike', recipes: {} },
    ]);
  });

  it('is none for a project that is on no rig', () => expect(otherRigs(factsOf([rig('own')], []), 'q')).toEqual([]));
});
