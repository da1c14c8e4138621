import { describe, expect, it } from '@jest/globals';
import { gearLines } from './gear-words.ts';

describe('what a change of a rig did', () => {
  it('stands side by side, and what was not measured is not made up', () => {
    const before = { exposures: 300, halfFluxRadiusArcsec: 2.345, guidingRmsArcsec: 0.71, gapSec: 33.6 };
    const after = { exposures: 12, halfFluxRadiusArcsec: 1.9, guidingRmsArcsec: null, gapSec: 29 };
    expect(gearLines(before, after)).toEqual([
      { name: 'half-flux radius of stars', was: '2.35″', is: '1.90″' },
      { name: 'guiding', was: '0.71″', is: 'not measured' },
      { name: 'from one exposure to the next', was: '34 s', is: '29 s' },
      { name: 'exposures compared', was: '300', is: '12' },
    ]);
  });
});
