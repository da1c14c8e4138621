// Limits in words: name, unit, what the number means.
import type { LimitKey } from '@meridiem/core';
import { DateTime } from 'luxon';

interface LimitWords {
  readonly name: string;
  readonly unit: string;
  readonly help: string;
}

export const LIMIT_WORDS: Readonly<Record<LimitKey, LimitWords>> = {
  minAltitudeDeg: { name: 'Altitude at least', unit: '°', help: 'The target must stand this high.' },
  horizonMarginDeg: { name: 'Over the horizon', unit: '°', help: 'Clearance above the horizon profile.' },
  sunAltitudeMaxDeg: {
    name: 'Sun no higher than',
    unit: '°',
    help: 'Any depth: −18 is astronomical night, −12 nautical.',
  },
  afterDuskMin: {
    name: 'After dusk',
    unit: 'min',
    help: 'Minutes added after the sun has that depth; negative starts earlier.',
  },
  beforeDawnMin: {
    name: 'Before dawn',
    unit: 'min',
    help: 'Minutes kept free before the sun is back; negative goes on longer.',
  },
  moonSeparationMinDeg: {
    name: 'Moon at least',
    unit: '° away',
    help: 'Counts only while the moon is up and lit above its share.',
  },
  moonLitShareMin: {
    name: 'Moon counts when lit',
    unit: 'share',
    help: 'From 0 to 1; below it the separation is not asked.',
  },
  moonlightToleranceMag: {
    name: 'Moonlight at most',
    unit: 'mag',
    help: 'By how much the moon may brighten the sky in this filter.',
  },
  moonAltitudeMaxDeg: { name: 'Moon below', unit: '°', help: '0 means: moon down.' },
  hourAngleMaxHours: { name: 'Hour angle within', unit: 'h', help: 'Hours from the meridian, either side.' },
  zenithKeepOutDeg: { name: 'Zenith kept clear', unit: '°', help: 'No exposure closer to the zenith.' },
  notBeforeClockMin: { name: 'Not before', unit: 'clock', help: 'Local time, as minutes after midnight.' },
  notAfterClockMin: { name: 'Not after', unit: 'clock', help: 'Local time, as minutes after midnight.' },
  firstNightDay: { name: 'First night', unit: '', help: 'Days since 1970.' },
  lastNightDay: { name: 'Last night', unit: '', help: 'Days since 1970.' },
  minRateShare: {
    name: 'Light worth at least',
    unit: 'of its best',
    help: 'Share of the target’s own best signal rate, 0 to 1.',
  },
  minStretchMin: {
    name: 'Shortest stay',
    unit: 'min',
    help: 'Shorter stays are only planned when they finish something.',
  },
};

/** A limit's value with its unit; "off" and "none" in words. */
export function limitText(key: LimitKey, value: number | null): string {
  if (value === null) return 'off';
  if (key === 'notBeforeClockMin' || key === 'notAfterClockMin')
    return `${String(Math.floor(value / 60)).padStart(2, '0')}:${String(value % 60).padStart(2, '0')}`;
  if (key === 'firstNightDay' || key === 'lastNightDay')
    return DateTime.fromMillis(value * 86_400_000, { zone: 'utc' }).toFormat('d LLL yyyy');
  const sign = value < 0 ? '−' : '';
  return `${sign}${Math.abs(value)}${LIMIT_WORDS[key].unit.startsWith('°') ? '' : ' '}${LIMIT_WORDS[key].unit}`;
}
