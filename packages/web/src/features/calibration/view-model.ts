// What is owed in calibration, in words.
import type { CalibrationNeed, CalibrationRules, GuideDarks } from '@meridiem/contract';
import { nightDateAt } from '@meridiem/core';
import { dayOf, degrees } from '../../words/format.ts';

const KIND: Readonly<Record<CalibrationNeed['kind'], string>> = {
  flat: 'flats',
  'flat-dark': 'darks for flats',
  dark: 'darks',
  bias: 'bias',
};

/** What the frames must be like: "L, gain 100, offset 30, 1×1, camera at 30.0°" */
export function likeWords(need: CalibrationNeed): string {
  const { kind, filterLetter, gain, offset, binning, region, exposureSec, sensorC, mechanicalAngleDeg } = need;
  const cold = sensorC === null ? 'temperature not known' : `${sensorC} °C`.replace('-', '−');
  return [
    ...(kind === 'flat' ? [filterLetter ?? 'no filter'] : []),
    ...(exposureSec === null ? [] : [`${exposureSec} s`, cold]),
    gain === null ? 'gain not known' : `gain ${gain}`,
    offset === null ? 'offset not known' : `offset ${offset}`,
    `${binning}×${binning}`,
    ...(region ? [`the middle ${region.widthPx} × ${region.heightPx} px`] : []),
    ...(kind === 'flat'
      ? [mechanicalAngleDeg === null ? 'camera angle not known' : `camera at ${degrees(mechanicalAngleDeg)}`]
      : []),
  ].join(', ');
}

export const kindWords = ({ kind }: Pick<CalibrationNeed, 'kind'>): string => KIND[kind];

const STATE: Readonly<Record<CalibrationNeed['state'], string>> = {
  matched: 'there',
  few: 'too few',
  aged: 'too old',
  changed: 'no longer fit',
  owed: 'owed',
};

/** "too few: 4 of at least 10" */
export const stateWords = ({ state, words }: Pick<CalibrationNeed, 'state' | 'words'>): string =>
  state === 'matched' || state === 'owed' ? STATE[state] : `${STATE[state]}: ${words}`;

/** The one sentence on a rig. */
export function owedWords(needs: readonly CalibrationNeed[]): string {
  if (needs.length === 0) return 'No lights in this period.';
  const owed = needs.filter(({ state }) => state !== 'matched').length;
  if (owed === 0) return 'Nothing is owed.';
  return `${owed} of ${needs.length} sets ${owed === 1 ? 'is' : 'are'} owed.`;
}

const ORDER: readonly CalibrationNeed['state'][] = ['owed', 'changed', 'few', 'aged', 'matched'];

/** What is owed first. */
export const inOrder = (needs: readonly CalibrationNeed[]): CalibrationNeed[] =>
  needs.toSorted((a, b) => ORDER.indexOf(a.state) - ORDER.indexOf(b.state));

/** What makes a set enough for this rig. */
export const rulesWords = ({ angleToleranceDeg, temperatureToleranceC, fewest, keepsDays }: CalibrationRules): string =>
  `Flats: at least ${fewest.flat}, within ${angleToleranceDeg}°, for ${keepsDays.flat} days. ` +
  `Darks: at least ${fewest.dark}, within ${temperatureToleranceC} °C, bias at least ${fewest.bias}, both for ${keepsDays.dark} days.`;

/** How the guide camera's darks stand. */
export function guideDarkWords({ takenUtcMs, isDue }: GuideDarks, zone: string): string {
  if (takenUtcMs === null) return 'Guide camera: no darks yet; its guider takes them after the next night.';
  const taken = `Guide camera: darks of ${dayOf(nightDateAt(takenUtcMs, zone))}`;
  return isDue ? `${taken}, too old; its guider takes new ones after the next night.` : `${taken}.`;
}
