import { describe, expect, it } from '@jest/globals';
import type { CalibratedLight, CalibrationEvent, CalibrationSet } from './owed.ts';
import { CALIBRATION_RULES, calibrationNeeds } from './owed.ts';

const NIGHT = Date.parse('2026-11-20T22:00Z');
const DAY_MS = 86_400_000;

type Changes = Partial<CalibratedLight> & { readonly day?: number };
const PART = { widthPx: 800, heightPx: 600 };
const light = ({ day = 0, ...change }: Changes = {}): CalibratedLight => ({
  utcMs: NIGHT + day * DAY_MS, exposureSec: 300, sensorC: -10, filterId: 'L', opticsId: 'one',
  mechanicalAngleDeg: 30, gain: 100, offset: 30, binning: 1, region: null, ...change,
}); // prettier-ignore
type SetChanges = Partial<CalibrationSet> & { readonly day?: number };
const set = (kind: CalibrationSet['kind'], { day = 1, ...change }: SetChanges = {}): CalibrationSet => ({
  ...light({ day }), id: `${kind} of day ${day}`, kind, count: 30,
  exposureSec: kind === 'flat' ? 2 : kind === 'bias' ? 0 : 300, ...change,
}); // prettier-ignore
const flat = (change: SetChanges = {}) => set('flat', change);
const dark = (change: SetChanges = {}) => set('dark', { filterId: null, ...change });
const bias = (change: SetChanges = {}) => set('bias', { filterId: null, ...change });

/** "flat matched", or "flat owed ×2" where two different ones are. */
function said(
  lights: readonly CalibratedLight[],
  shelf: readonly CalibrationSet[],
  events: readonly CalibrationEvent[] = [],
): string[] {
  const counts = new Map<string, number>();
  for (const { kind, state } of calibrationNeeds(lights, shelf, CALIBRATION_RULES, events))
    counts.set(`${kind} ${state}`, (counts.get(`${kind} ${state}`) ?? 0) + 1);
  return [...counts].map(([words, count]) => (count > 1 ? `${words} ×${count}` : words));
}
const all = [flat(), dark({ exposureSec: 2 }), dark(), bias()];
const only = (kind: string, words: readonly string[]): string[] => words.filter((one) => one.startsWith(`${kind} `));
const cleaned: CalibrationEvent = { utcMs: NIGHT + DAY_MS / 2, kinds: ['flat'], words: 'the sensor was cleaned' };
const opened: CalibrationEvent = {
  utcMs: NIGHT + DAY_MS / 2,
  kinds: ['flat', 'dark', 'bias'],
  words: 'another camera',
};

type Case = readonly [
  name: string,
  lights: readonly CalibratedLight[],
  shelf: readonly CalibrationSet[],
  words: readonly string[],
  events?: readonly CalibrationEvent[],
];
const rows = (cases: readonly Case[]) =>
  cases.map(([name, lights, shelf, words, events = []]) => ({ name, lights, shelf, words, events }));

describe('calibration', () => {
  it.each(rows([
    ['nothing is owed where nothing was taken', [], all, []],
    ['everything is owed where the shelf is empty', [light()], [], ['flat owed', 'dark owed', 'bias owed']],
    ['everything fits', [light()], all, ['flat matched', 'flat-dark matched', 'dark matched', 'bias matched']],
    ['a hundred lights alike need one of each', Array.from({ length: 100 }, () => light()), all, ['flat matched', 'flat-dark matched', 'dark matched', 'bias matched']],
    ['a flat asks for a dark of its own length', [light()], [flat()], ['flat matched', 'flat-dark owed', 'dark owed', 'bias owed']],
  ]))('$name', ({ lights, shelf, words, events }) => expect(said(lights, shelf, events)).toEqual(words)); // prettier-ignore

  it.each(rows([
    ['angles 30 and 210 each need their own', [light(), light({ mechanicalAngleDeg: 210 })], [], ['flat owed ×2']],
    ['a half turn of the rotator does not keep them', [light({ mechanicalAngleDeg: 210 })], [flat()], ['flat owed']],
    ['of angles 30 and 210 one may be there', [light(), light({ mechanicalAngleDeg: 210 })], [flat()], ['flat matched', 'flat owed']],
    ['after a flip the camera is as it was', [light(), light({ day: 0.1 })], [flat()], ['flat matched']],
    ['within the tolerance', [light()], [flat({ mechanicalAngleDeg: 32 })], ['flat matched']],
    ['beyond the tolerance', [light()], [flat({ mechanicalAngleDeg: 32.1 })], ['flat owed']],
    ['across north', [light({ mechanicalAngleDeg: 359 })], [flat({ mechanicalAngleDeg: 0.5 })], ['flat matched']],
    ['nobody knows the angle of either', [light({ mechanicalAngleDeg: null })], [flat({ mechanicalAngleDeg: null })], ['flat matched']],
    ['nobody knows the angle of one', [light()], [flat({ mechanicalAngleDeg: null })], ['flat owed']],
    ['lights two degrees apart share flats', [light(), light({ mechanicalAngleDeg: 31.9 })], [], ['flat owed']],
    ['lights in a row of degrees need as many as are out of reach of each other', [30, 31.5, 33, 34.5].map((mechanicalAngleDeg) => light({ mechanicalAngleDeg })), [], ['flat owed ×2']],
    ['another filter', [light()], [flat({ filterId: 'R' })], ['flat owed']],
    ['two filters', [light(), light({ filterId: 'R' })], [flat()], ['flat matched', 'flat owed']],
    ['without a filter', [light({ filterId: null })], [flat({ filterId: null })], ['flat matched']],
    ['another gain', [light()], [flat({ gain: 0 })], ['flat owed']],
    ['gain that nobody wrote down', [light()], [flat({ gain: null })], ['flat owed']],
    ['another offset', [light()], [flat({ offset: 10 })], ['flat owed']],
    ['another binning', [light({ binning: 2 })], [flat()], ['flat owed']],
    ['a region of the sensor', [light({ region: PART })], [flat()], ['flat owed']],
    ['another part of the sensor', [light({ region: PART })], [flat({ region: { ...PART, heightPx: 500 } })], ['flat owed']],
    ['the same region', [light({ region: PART })], [flat({ region: { ...PART } })], ['flat matched']],
    ['other optics', [light({ opticsId: 'two' })], [flat()], ['flat owed']],
    ['lights before and after a change of optics', [light(), light({ day: 1, opticsId: 'two' })], [flat()], ['flat matched', 'flat owed']],
    ['temperature is no matter', [light({ sensorC: -20 })], [flat()], ['flat matched']],
    ['length is no matter', [light({ exposureSec: 60 })], [flat()], ['flat matched']],
    ['too few', [light()], [flat({ count: 9 })], ['flat few']],
    ['just enough', [light()], [flat({ count: 10 })], ['flat matched']],
    ['thirty days away', [light()], [flat({ day: 30 })], ['flat matched']],
    ['thirty-one days away', [light()], [flat({ day: 31 })], ['flat aged']],
    ['a month before its lights', [light()], [flat({ day: -31 })], ['flat aged']],
    ['old, but newer lights are as old', [light({ day: -60 })], [flat({ day: -59 })], ['flat matched']],
    ['whole before nearer', [light()], [flat({ day: 5 }), flat({ day: 1, count: 3 })], ['flat matched']],
    ['cleaned between', [light()], [flat()], ['flat changed'], [cleaned]],
    ['cleaned before both', [light({ day: 1 })], [flat({ day: 2 })], ['flat matched'], [cleaned]],
    ['cleaned between, with older flats too', [light()], [flat(), flat({ day: -2 })], ['flat matched'], [cleaned]],
  ]))('flats: $name', ({ lights, shelf, words, events }) => expect(only('flat', said(lights, shelf, events))).toEqual(words)); // prettier-ignore

  it.each(rows([
    ['one length', [light()], [dark()], ['dark matched']],
    ['two lengths', [light(), light({ exposureSec: 120 })], [dark()], ['dark matched', 'dark owed']],
    ['a length as the camera rounds it', [light({ exposureSec: 299.9 })], [dark()], ['dark matched']],
    ['another length', [light({ exposureSec: 290 })], [dark()], ['dark owed']],
    ['a degree away', [light({ sensorC: -11 })], [dark()], ['dark matched']],
    ['two degrees away', [light({ sensorC: -12 })], [dark()], ['dark owed']],
    ['temperature that nobody wrote down', [light({ sensorC: null })], [dark()], ['dark owed']],
    ['filter, angle and optics are no matter', [light({ filterId: 'Ha', mechanicalAngleDeg: 200, opticsId: 'two' })], [dark()], ['dark matched']],
    ['another gain', [light({ gain: 200 })], [dark()], ['dark owed']],
    ['another region', [light({ region: PART })], [dark()], ['dark owed']],
    ['a year away', [light()], [dark({ day: 365 })], ['dark matched']],
    ['more than a year away', [light()], [dark({ day: -366 })], ['dark aged']],
    ['cleaning leaves darks as they were', [light()], [dark()], ['dark matched'], [cleaned]],
    ['another camera between', [light()], [dark()], ['dark changed'], [opened]],
  ]))('darks: $name', ({ lights, shelf, words, events }) => expect(only('dark', said(lights, shelf, events))).toEqual(words)); // prettier-ignore

  it.each(rows([
    ['one for every length and temperature', [light(), light({ exposureSec: 60, sensorC: 5 })], [bias()], ['bias matched']],
    ['nineteen are too few', [light()], [bias({ count: 19 })], ['bias few']],
    ['another binning', [light({ binning: 2 })], [bias()], ['bias owed']],
  ]))('bias: $name', ({ lights, shelf, words, events }) => expect(only('bias', said(lights, shelf, events))).toEqual(words)); // prettier-ignore

  it('says which set it is, how many lights need it, and why it does not do', () => {
    const lights = [light(), light({ day: 0.02 }), light({ filterId: 'R' })];
    const needs = calibrationNeeds(lights, [flat({ count: 3 }), flat({ day: 9 }), flat({ filterId: 'R', day: 40 })]);
    expect(needs.filter(({ kind }) => kind === 'flat')).toMatchObject([
      { lights: 2, state: 'matched', set: { id: 'flat of day 9' }, words: '', newestUtcMs: lights[1].utcMs },
      { lights: 1, state: 'aged', set: { id: 'flat of day 40' }, words: '40 days away, 30 are allowed' },
    ]);
  });
});
