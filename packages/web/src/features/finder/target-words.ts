// What a target offers, in the sentence one would say to another member.
import type { Interval, SkyPosition, WorthSetting, yearOfHours } from '@meridiem/core';
import { directionOf, hoursOf, transitsOf } from '@meridiem/core';
import { DateTime } from 'luxon';
import { clock } from '../../words/format.ts';

const SIDES = ['north', 'north-east', 'east', 'south-east', 'south', 'south-west', 'west', 'north-west'] as const;

/** The side of the sky that an azimuth looks to. */
export const sideOf = (azimuthDeg: number): string => SIDES[Math.round(azimuthDeg / 45) % 8];

/** Where it culminates tonight, and when. */
export function culmination(setting: WorthSetting, position: SkyPosition, during: Interval) {
  const utcMs = transitsOf(setting.site, position, during)[0];
  return utcMs === undefined ? null : { utcMs, ...directionOf(setting.site, position, utcMs) };
}

/** Highest it ever gets from a site. */
export const highestDeg = (latitudeDeg: number, decDeg: number): number => 90 - Math.abs(latitudeDeg - decDeg);

/** "Highest at 01:40 due north at 71°, usable 22:05–04:50." */
export function tonightWords(of: {
  setting: WorthSetting;
  position: SkyPosition;
  night: Interval;
  usable: readonly Interval[];
  zone: string;
}): string {
  const { setting, position, night, usable, zone } = of;
  const top = highestDeg(setting.site.latitudeDeg, position.decDeg);
  const floor = setting.classes[0]?.limits.minAltitudeDeg.value ?? setting.bounds.mountAltitudeMinDeg;
  if (top <= 0) return 'Never rises here.';
  if (top < floor) return `Never high enough here: at most ${top.toFixed(0)}°, and ${floor}° is asked for.`;
  const at = culmination(setting, position, night);
  const highest = at
    ? `Highest at ${clock(at.utcMs, zone)} due ${sideOf(at.azimuthDeg)} at ${at.altitudeDeg.toFixed(0)}°`
    : 'Highest by day';
  const span = usable.map(({ startUtcMs, endUtcMs }) => `${clock(startUtcMs, zone)}–${clock(endUtcMs, zone)}`);
  return `${highest}; ${span.length > 0 ? `usable ${span.join(' and ')} (${hoursOf(usable).toFixed(1)} h)` : 'not usable tonight'}.`;
}

/** Enough of its best to be worth going on with. */
const WELL_PLACED = 0.6;

/** Until when it stays well placed, or when it will be. The moon comes and goes each month, so the best of each fortnight counts. */
export function seasonWords(year: ReturnType<typeof yearOfHours>, byClass: number, firstNight: string): string {
  const hours = year.map((night) => night.hours[byClass] ?? 0);
  const fortnights = Array.from({ length: Math.ceil(hours.length / 14) }, (_, i) =>
    Math.max(...hours.slice(14 * i, 14 * i + 14)),
  );
  const best = Math.max(...fortnights);
  if (best <= 0) return 'No night of the coming year has usable hours.';
  const isGood = fortnights.map((value) => value >= WELL_PLACED * best);
  const when = (i: number): string => {
    const day = DateTime.fromISO(firstNight).plus({ days: 14 * i });
    return `${day.day <= 10 ? 'early' : day.day <= 20 ? 'mid' : 'late'} ${day.toFormat('LLLL')}`;
  };
  if (isGood.every(Boolean)) return 'Well placed all year.';
  if (isGood[0]) return `Well placed until ${when(isGood.indexOf(false))}.`;
  return `Well placed from ${when(isGood.indexOf(true))}.`;
}

/** Objects that bear a bright night: small and bright, or of stars. */
export const isRobust = ({ kind, mag }: { kind: string; mag: number | null }): boolean =>
  mag !== null && mag <= 10 && /cluster|planetary|star/i.test(kind);
