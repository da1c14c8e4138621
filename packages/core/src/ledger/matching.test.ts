import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import type { FrameFacts } from '../formats/frame-facts.ts';
import { filterOf, matchFrame } from './matching.ts';
import type { MatchContext, MatchPanel } from './matching.ts';

const filters = ['L', 'R', 'Ha', 'OIII'].map((letter) => ({ id: letter, letter, name: `${letter} filter` }));
const panel = (id: string, decDeg: number, more: Partial<MatchPanel> = {}): MatchPanel => ({
  id,
  name: id,
  projectId: 'p',
  projectName: 'NGC 7090 in colour',
  targetName: 'NGC 7090',
  rigId: 'heron',
  centre: { raDeg: 324.12, decDeg },
  positionAngleDeg: 30,
  goals: [
    { id: `${id}-L`, filterId: 'L', exposureSec: 120, gain: 100, binning: 1 },
    { id: `${id}-L-long`, filterId: 'L', exposureSec: 300, gain: 100, binning: 1 },
    { id: `${id}-Ha`, filterId: 'Ha', exposureSec: 300, gain: 100, binning: 1 },
  ],
  ...more,
});
const context: MatchContext = {
  rigs: [
    { id: 'heron', name: 'Heron, the long reflector', cameraName: 'Heron camera', widthDeg: 0.6, heightDeg: 0.4 },
    { id: 'wren', name: 'Wren, the wide refractor', cameraName: 'Wren camera', widthDeg: 1.6, heightDeg: 1.2 },
  ],
  filters,
  panels: [
    panel('one', -54.557),
    panel('two', -54.2),
    panel('unplaced', 0, { centre: null, targetName: 'NGC 55', projectName: 'A string of pearls' }),
  ],
};
const facts: FrameFacts = {
  kind: 'light',
  objectName: 'NGC 7090',
  centre: { raDeg: 324.12, decDeg: -54.557 },
  positionAngleDeg: 30.4,
  scaleArcsecPerPx: 0.9,
  isMirrored: false,
  startUtcMs: 0,
  startStepMs: 1,
  exposureSec: 120,
  filterName: 'L',
  gain: 100,
  offset: 30,
  binning: 1,
  sensorC: -10,
  cameraName: 'Heron camera',
  telescopeName: 'Heron',
  observerName: null,
  sequence: null,
  widthPx: 8,
  heightPx: 6,
  isTruncated: false,
  isSimulated: false,
  combined: null,
  site: null,
  dataStart: 2880,
  dataLength: 96,
  doubts: [],
};
const match = (change: Partial<FrameFacts>, byHand = {}) => matchFrame({ ...facts, ...change }, context, byHand);

describe('matching', () => {
  it('finds panel and goal by place, filter and length', () => {
    expect(match({})).toMatchObject({ panelId: 'one', goalId: 'one-L', creditShare: 1, certainty: 'sure' });
    expect(match({ exposureSec: 300 }).goalId).toBe('one-L-long');
    expect(match({ filterName: 'h-alpha', exposureSec: 300 }).goalId).toBe('one-Ha');
  });

  it('takes a frame that hangs upside down for the same frame', () =>
    expect(match({ positionAngleDeg: 210.4 })).toMatchObject({ panelId: 'one', certainty: 'sure' }));

  it('asks between half and nine tenths of coverage, and matches nothing below', () => {
    const shifted = (degrees: number) => match({ centre: { raDeg: 324.12, decDeg: -54.557 - degrees } });
    expect(shifted(0.1).certainty).toBe('ask');
    expect(shifted(0.3)).toMatchObject({ certainty: 'none', panelId: null, creditShare: 0 });
    expect(shifted(0.3).reasons[0]).toMatch(/no panel lies here.*the nearest, one/);
  });

  it('asks where only the name speaks', () => {
    expect(match({ centre: null })).toMatchObject({ certainty: 'ask', coverage: null });
    expect(match({ centre: null, objectName: 'ngc55' })).toMatchObject({ panelId: 'unplaced', certainty: 'ask' });
    expect(match({ centre: null, objectName: 'elsewhere' }).certainty).toBe('none');
  });

  it('counts another length by its seconds, and says so', () => {
    const { creditShare, reasons } = match({ exposureSec: 60 });
    expect(creditShare).toBe(0.5);
    expect(reasons.join()).toContain('60 s count 0.50');
  });

  it('keeps without credit what no goal wants, and says why', () => {
    expect(match({ filterName: 'R' })).toMatchObject({ panelId: 'one', goalId: null, creditShare: 0 });
    expect(match({ filterName: 'R' }).reasons.join()).toContain('no goal wants R');
    expect(match({ binning: 2 }).reasons.join()).toContain('no goal has binning 2');
  });

  it('flags a gain that mixes', () => expect(match({ gain: 0 }).reasons.join()).toContain('gain 0 mixes'));

  it('matches no goal for calibration, an unknown filter or an unknown rig', () => {
    expect(match({ kind: 'flat' }).reasons[0]).toContain('flat');
    expect(match({ filterName: 'UV' }).reasons[0]).toContain('no filter is called "UV"');
    expect(match({ cameraName: 'x', telescopeName: 'y' }).rigId).toBeNull();
  });

  it('lets a hand stand over what would be found', () => {
    expect(match({}, { panelId: 'two' })).toMatchObject({ panelId: 'two', certainty: 'sure' });
    expect(match({}, { panelId: null })).toMatchObject({ panelId: null, certainty: 'none' });
    expect(match({ filterName: null }, { filterId: 'L' }).goalId).toBe('one-L');
  });

  it('never credits more than the seconds are worth', () =>
    fc.assert(
      fc.property(fc.double({ min: 0.1, max: 3600, noNaN: true }), (exposureSec) => {
        const { goalId, creditShare } = match({ exposureSec });
        const length = goalId === 'one-L' ? 120 : 300;
        expect(Math.abs(creditShare - exposureSec / length)).toBeLessThanOrEqual(0.0101);
      }),
    ));
});

it.each([
  ['Luminance', 'L'],
  [' red ', 'R'],
  ['H-alpha 3nm', 'Ha'],
  ['O3', 'OIII'],
  ['Ha filter', 'Ha'],
])('filter "%s" is %s', (name, letter) => expect(filterOf(name, filters)?.letter).toBe(letter));
it('takes no filter for another', () => expect(filterOf('clearish', filters)).toBeUndefined());
