import { describe, expect, it } from '@jest/globals';
import { amountWords, archiveAddress, calibrationWords, deliveryQuery, toggledPart } from './view-model.ts';

describe('a delivery’s names', () => {
  it('gain and lose parts in the order in which they are chosen', () => {
    expect(toggledPart('night,filter', 'rig')).toBe('night,filter,rig');
    expect(toggledPart('night,filter', 'night')).toBe('filter');
    expect(toggledPart('', 'panel')).toBe('panel');
  });

  it('are as the address says, or as usual', () => {
    expect(deliveryQuery(new URLSearchParams())).toEqual({
      folders: 'night,filter',
      name: 'panel,filter,length,time',
      set: 'not rejected',
      calibration: 'with',
    });
    expect(deliveryQuery(new URLSearchParams('calibration=without')).calibration).toBe('without');
    expect(deliveryQuery(new URLSearchParams('folders=none&set=all'))).toMatchObject({ folders: '', set: 'all' });
    expect(deliveryQuery(new URLSearchParams('set=stolen')).set).toBe('not rejected');
  });

  it('go into the archive’s address', () => {
    expect(archiveAddress('p1', { folders: '', name: 'panel', set: 'not rejected', calibration: 'with' })).toBe(
      '/api/projects/p1/delivery/archive?folders=&name=panel&set=not+rejected&calibration=with',
    );
  });

  it('say which calibration comes with the lights', () => {
    const files = (['light', 'flat', 'flat', 'dark', 'bias', 'bias'] as const).map((kind) => ({ kind }));
    expect(calibrationWords(files)).toBe('Calibration that fits: 2 flats, 1 dark, 2 bias.');
    expect(calibrationWords([{ kind: 'light' }])).toBeNull();
  });

  it('say amounts as people do', () => {
    expect([0, 999, 1_440_000, 612_000_000, 3.2e12].map(amountWords)).toEqual([
      '0 B',
      '999 B',
      '1.4 MB',
      '612 MB',
      '3.2 TB',
    ]);
  });
});
