import { describe, expect, it } from '@jest/globals';
import type { SiteReading, WatchedStep } from '@meridiem/contract';
import { filterCounts, missed, siteFacts, stayLeft, staysOf } from './progress.ts';

const START = Date.parse('2026-12-08T20:00Z');
const step = (i: number, stay: number, filterLetter: string, more: Partial<WatchedStep> = {}): WatchedStep => ({
  stay,
  panelName: stay === 0 ? 'Veil' : 'Heron',
  filterLetter,
  filterClass: filterLetter === 'Ha' ? 'narrowband' : 'broadband',
  plannedUtcMs: START + i * 360_000,
  exposureSec: 300,
  takenUtcMs: null,
  outcome: null,
  isUnderWay: false,
  words: null,
  halfFluxRadiusPx: null,
  ...more,
});
const night = [
  step(0, 0, 'L', { outcome: 'done' }),
  step(1, 0, 'L', { outcome: 'lost', words: 'Not begun: cloud' }),
  step(2, 0, 'R'),
  step(3, 0, 'R'),
  step(4, 1, 'Ha'),
];
const reading: SiteReading = {
  utcMs: START,
  isSafe: true,
  temperatureC: -3.4,
  humidityPercent: 52,
  windMPerSec: 4.2,
  cloudCoverPercent: 0,
  sensorC: -10,
  coolerPowerPercent: 61,
  guidingRmsArcsec: 0.7,
  altitudeDeg: 61.2,
  azimuthDeg: 140,
  isParked: false,
  roof: 'open',
};

describe('how far a night is', () => {
  it('is counted by filter and by stay', () => {
    expect(filterCounts(night).map(({ filterLetter, taken, lost, all }) => [filterLetter, taken, lost, all])).toEqual([
      ['L', 1, 1, 2],
      ['R', 0, 0, 2],
      ['Ha', 0, 0, 1],
    ]);
    expect(staysOf(night).map(({ panelName, endUtcMs }) => [panelName, (endUtcMs - START) / 60_000])).toEqual([
      ['Veil', 23],
      ['Heron', 29],
    ]);
  });
  it('says what is left of the stay at hand, and nothing where the night is over', () => {
    expect(stayLeft(night, 'UTC')).toBe('2 R, planned until 20:23');
    expect(stayLeft(night.map((one) => ({ ...one, outcome: 'done' as const })), 'UTC')).toBeNull(); // prettier-ignore
  });
  it('says what did not come off and why', () =>
    expect(missed(night)).toEqual(['Veil: 1 of 4 not taken. Not begun: cloud']));
});

describe('how the site stands', () => {
  it('is said with units', () =>
    expect(siteFacts(reading).map(({ name, words }) => `${name}: ${words}`)).toEqual([
      'Safety: safe',
      'Sky: 0 % cloud, wind 4 m/s',
      'Air: −3 °C, 52 % humidity',
      'Sensor: −10.0 °C, cooler at 61 %',
      'Mount: 61° high, azimuth 140°',
    ]));
  it('leaves out what nothing measures', () => {
    const blind = { ...reading, isSafe: false, temperatureC: null, humidityPercent: null, windMPerSec: null, cloudCoverPercent: null, sensorC: null, coolerPowerPercent: null, isParked: true }; // prettier-ignore
    expect(siteFacts(blind)).toEqual([
      { name: 'Safety', words: 'not safe' },
      { name: 'Mount', words: 'parked' },
    ]);
  });
});
