// What a target offers, in the sentence one would say to another member.
import type { NightSky, ResponseOf, catalogueAround } from '@meridiem/contract';
import type { Interval, SkyPosition, WorthSetting, yearOfHours } from '@meridiem/core';
import {
  angleBetweenDeg,
  daysToFullMoon,
  directionOf,
  hoursOf,
  moonSeparationDeg,
  transitsOf,
  unitVector,
} from '@meridiem/core';
import { DateTime } from 'luxon';
import { clock, percent } from '../../words/format.ts';

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

/** "in 5 days", "today", "2 days ago" */
function fullWords(days: number): string {
  const whole = Math.round(days);
  if (whole === 0) return 'full today';
  const count = `${Math.abs(whole)} ${Math.abs(whole) === 1 ? 'day' : 'days'}`;
  return whole > 0 ? `full in ${count}` : `full ${count} ago`;
}

const HOUR_MS = 3_600_000;

/** "Moon 63 % lit, full in 5 days, up until 01:20; 41° to 47° away tonight." */
export function moonWords(site: WorthSetting['site'], position: SkyPosition, sky: NightSky, zone: string): string {
  const { moonriseUtcMs, moonsetUtcMs, viewStartUtcMs, viewEndUtcMs } = sky;
  const middle = (viewStartUtcMs + viewEndUtcMs) / 2;
  const apart: number[] = [];
  for (let utcMs = viewStartUtcMs; utcMs <= viewEndUtcMs; utcMs += HOUR_MS)
    apart.push(moonSeparationDeg(site, position, utcMs));
  const [near, far] = [Math.min(...apart), Math.max(...apart)].map((degrees) => `${degrees.toFixed(0)}°`);
  const during = [
    moonriseUtcMs !== null && `rises ${clock(moonriseUtcMs, zone)}`,
    moonsetUtcMs !== null && `sets ${clock(moonsetUtcMs, zone)}`,
  ].filter(Boolean);
  const lit = `Moon ${percent(sky.moonIlluminatedShare)} lit, ${fullWords(daysToFullMoon(middle))}`;
  return `${[lit, ...during].join(', ')}; ${near === far ? near : `${near} to ${far}`} away tonight.`;
}

/** As bright as this a star leaves a halo in the picture; dimmer ones matter at an edge alone, which framing shows. */
const HALO_MAG = 5.5;
const MOST_STARS = 3;
const ARCMIN = 60;

export interface NearStar {
  readonly name: string | null;
  readonly mag: number;
  readonly distanceDeg: number;
}

/** Stars within half a field's diagonal of a target that are bright enough for a halo, the brightest first. */
export function haloStars(
  position: SkyPosition,
  { stars, starNames }: Pick<ResponseOf<typeof catalogueAround>, 'stars' | 'starNames'>,
  reachDeg: number,
): NearStar[] {
  const middle = unitVector(position);
  return stars
    .map(([raDeg, decDeg, mag]) => ({
      name:
        starNames.find((named) => Math.abs(named[1] - decDeg) < 0.01 && Math.abs(named[0] - raDeg) < 0.02)?.[2] ?? null,
      mag,
      distanceDeg: angleBetweenDeg(middle, unitVector({ raDeg, decDeg })),
    }))
    .filter(({ mag, distanceDeg }) => mag <= HALO_MAG && distanceDeg <= reachDeg)
    .sort((a, b) => a.mag - b.mag)
    .slice(0, MOST_STARS);
}

/** "Canopus (magnitude −0.6, 18′ away) will leave a halo, least through narrow filters." */
export function haloWords(stars: readonly NearStar[]): string | null {
  if (stars.length === 0) return null;
  const each = stars.map(
    ({ name, mag, distanceDeg }) =>
      `${name ?? 'a star'} (magnitude ${mag.toFixed(1).replace('-', '−')}, ${
        distanceDeg < 1 ? `${(ARCMIN * distanceDeg).toFixed(0)}′` : `${distanceDeg.toFixed(1)}°`
      } away)`,
  );
  const [first, ...rest] = each;
  const listed = rest.length === 0 ? first : `${[first, ...rest.slice(0, -1)].join(', ')} and ${rest.at(-1)}`;
  return `Bright in the field: ${listed}. Expect a halo, widest through broadband filters; on the Framing page you can move it out.`;
}
