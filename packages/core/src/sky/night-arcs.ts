// Nights as arcs of sidereal time, in closed form: good to a few minutes, and fast enough for every object of a catalogue and a year of nights.
import { AstroTime, Body, GeoVector, RotateVector, Rotation_EQJ_EQD } from 'astronomy-engine';
import { daysSinceJ2000 } from '../time/julian.ts';
import { EARTH_TURNS_PER_UT_DAY, greenwichMeanSiderealDeg } from '../time/sidereal.ts';
import type { Interval } from '../time/nights.ts';
import type { UtcMs } from '../units.ts';
import { DAY_MS, HOUR_MS, toDeg, toRad, wrap180, wrap360 } from '../units.ts';
import type { Site, SkyPosition } from './site.ts';
import { moonPhase } from './sun-moon.ts';

/** A night's darkness and its moon. */
export interface NightArcs {
  /** Sun lower than the depth asked for; null where it isn't that night. */
  readonly dark: Interval | null;
  /** Local mean sidereal time at the dark interval's start, degrees. */
  readonly siderealStartDeg: number;
  /** Moon above the horizon, cut to the dark interval. */
  readonly moonUp: readonly Interval[];
  readonly moonLitShare: number;
  /** Sun–moon–observer angle, 0 at full. */
  readonly moonPhaseAngleDeg: number;
  /** The moon's place in the middle of the night, as seen from the Earth's centre. */
  readonly moon: SkyPosition;
}

const DEG_PER_MS = (360 * EARTH_TURNS_PER_UT_DAY) / DAY_MS;
const TURN_MS = 360 / DEG_PER_MS;

/** Half the arc that a declination spends above an altitude.
 * @returns degrees of hour angle: 0 where it never gets there, 180 where it never sinks below */
export function halfArcDeg(latitudeDeg: number, decDeg: number, altitudeDeg: number): number {
  const [phi, dec] = [toRad(latitudeDeg), toRad(decDeg)];
  const across = Math.cos(phi) * Math.cos(dec);
  const cosine = (Math.sin(toRad(altitudeDeg)) - Math.sin(phi) * Math.sin(dec)) / (across || 1e-12);
  return cosine >= 1 ? 0 : cosine <= -1 ? 180 : toDeg(Math.acos(cosine));
}

/** Darkness and moon of a night from the sun's and the moon's places in its middle: dusk and dawn within two minutes, the moon within fifteen. */
export function nightArcs(site: Site, night: Interval, sunAltitudeDeg: number): NightArcs {
  const noonToNoonMiddle = (night.startUtcMs + night.endUtcMs) / 2;
  const sun = placeOfDate(Body.Sun, noonToNoonMiddle);
  const lowest = passageNear(site, sun.raDeg + 180, noonToNoonMiddle);
  const halfNightDeg = 180 - halfArcDeg(site.latitudeDeg, sun.decDeg, sunAltitudeDeg);
  const halfMs = halfNightDeg / (360 / DAY_MS);
  const dark = halfMs > 0 ? { startUtcMs: lowest - halfMs, endUtcMs: lowest + halfMs } : null;
  const { phaseAngleDeg, illuminatedShare } = moonPhase(lowest);
  return {
    dark,
    siderealStartDeg: dark ? localSiderealDeg(site, dark.startUtcMs) : 0,
    moonUp: dark ? moonIntervals(site, lowest, dark) : [],
    moonLitShare: illuminatedShare,
    moonPhaseAngleDeg: phaseAngleDeg,
    moon: placeOfDate(Body.Moon, lowest),
  };
}

/** Hours of the dark interval in which a right ascension stands within half an arc of the meridian.
 * @param halfDeg see `halfArcDeg` */
export function darkHoursAbove(arcs: NightArcs, raDeg: number, halfDeg: number, withoutMoon: boolean): number {
  if (!arcs.dark || halfDeg === 0) return 0;
  const { startUtcMs, endUtcMs } = arcs.dark;
  const halfMs = Math.min(halfDeg, 180) / DEG_PER_MS;
  let transit = startUtcMs + (wrap360(raDeg - arcs.siderealStartDeg) - 360) / DEG_PER_MS;
  let usableMs = 0;
  for (; transit - halfMs < endUtcMs; transit += TURN_MS) {
    const from = Math.max(startUtcMs, transit - halfMs);
    const to = Math.min(endUtcMs, transit + halfMs);
    if (to <= from) continue;
    usableMs += to - from;
    if (withoutMoon)
      for (const moon of arcs.moonUp)
        usableMs -= Math.max(0, Math.min(to, moon.endUtcMs) - Math.max(from, moon.startUtcMs));
  }
  return usableMs / HOUR_MS;
}

/** The moon moves by its own width an hour; its place is taken anew at each of its passages. */
function moonIntervals(site: Site, middle: UtcMs, dark: Interval): Interval[] {
  const dayMs = 24.84 * HOUR_MS;
  const first = passageNear(site, placeOfDate(Body.Moon, middle).raDeg, middle);
  return [first - dayMs, first, first + dayMs].flatMap((guess) => {
    const place = placeOfDate(Body.Moon, guess);
    const transit = passageNear(site, place.raDeg, guess);
    // Parallax hides the moon for nearly a degree more than refraction lifts it.
    const halfMs = (halfArcDeg(site.latitudeDeg, place.decDeg, 0.3) / 360) * dayMs;
    const startUtcMs = Math.max(dark.startUtcMs, transit - halfMs);
    const endUtcMs = Math.min(dark.endUtcMs, transit + halfMs);
    return endUtcMs > startUtcMs ? [{ startUtcMs, endUtcMs }] : [];
  });
}

/** The passage of a right ascension over the meridian nearest to a moment. */
const passageNear = (site: Site, raDeg: number, utcMs: UtcMs): UtcMs =>
  utcMs - wrap180(localSiderealDeg(site, utcMs) - raDeg) / DEG_PER_MS;

const localSiderealDeg = (site: Site, utcMs: UtcMs): number => greenwichMeanSiderealDeg(utcMs) + site.longitudeDeg;

function placeOfDate(body: Body, utcMs: UtcMs): SkyPosition {
  const time = new AstroTime(daysSinceJ2000(utcMs));
  const { x, y, z } = RotateVector(Rotation_EQJ_EQD(time), GeoVector(body, time, true));
  return { raDeg: toDeg(Math.atan2(y, x)), decDeg: toDeg(Math.atan2(z, Math.hypot(x, y))) };
}
