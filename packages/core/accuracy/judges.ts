// One judge per reference file: computes each row with the core and tallies the deviation against the agreed limit.
import { airmass } from '../src/sky/airmass.ts';
import { directionOf } from '../src/sky/altitude.ts';
import { extremeOf } from '../src/sky/crossings.ts';
import {
  darkIntervals,
  darkMoonlessIntervals,
  hoursOf,
  luminaryAltitude,
  moonCrossings,
  sunPassage,
  targetAltitude,
  transitsOf,
} from '../src/sky/events.ts';
import { crossingsOf, intervalsBelow } from '../src/sky/crossings.ts';
import { magVOf, darkSkyNanolamberts, moonlightChangeMag, moonlightNanolamberts } from '../src/sky/moonlight.ts';
import { refractionDeg } from '../src/sky/refraction.ts';
import { luminaryDirection, moonPhase, moonSeparationDeg, RISE_SET_ALTITUDE_DEG } from '../src/sky/sun-moon.ts';
import type { Interval } from '../src/time/nights.ts';
import { toRad, wrap180 } from '../src/units.ts';
import type { ReferenceRow } from './csv.ts';
import { momentIn, numberIn, positionIn, siteIn } from './csv.ts';
import { judgeComet, judgeMosaic, judgeTan } from './place-judges.ts';
import type { Verdict } from './tally.ts';
import { Tally } from './tally.ts';

export type Judge = (rows: readonly ReferenceRow[]) => Verdict[];

/** The judge of each file this project is held to. */
export const JUDGES: Readonly<Record<string, Judge>> = {
  'altaz.csv': judgeAltaz,
  'sunmoon.csv': judgeSunMoon,
  'night.csv': judgeNight,
  'transit.csv': judgeTransit,
  'separation.csv': judgeSeparation,
  'airmass.csv': judgeAirmass,
  'moonsky.csv': judgeMoonsky,
  'tan.csv': judgeTan,
  'mosaic.csv': judgeMosaic,
  'comet.csv': judgeComet,
};

const ARCSEC = 3600;
const DAY_MS = 86_400_000;
/** How far a sun extreme must lie from a limit for its passages to be well-conditioned (reference README). */
const GRAZING_SUN_DEG = 0.05;

function judgeAltaz(rows: readonly ReferenceRow[]): Verdict[] {
  const file = 'altaz.csv';
  const altitude = new Tally({ file, quantity: 'target altitude', unit: '″', limit: 2, medianLimit: 0.5 });
  const azimuth = new Tally({ file, quantity: 'target Δaz·cos(alt)', unit: '″', limit: 2, medianLimit: 0.5 });
  const refraction = new Tally({
    file,
    quantity: 'refraction, share of the spread',
    unit: '×',
    limit: 1,
    leftOutRule: 'altitude 5° or lower',
  });
  for (const row of rows) {
    const seen = directionOf(siteIn(row), positionIn(row), momentIn(row, 'utc')!);
    const altitudeDeg = numberIn(row, 'alt_deg');
    altitude.add((seen.altitudeDeg - altitudeDeg) * ARCSEC);
    azimuth.add(wrap180(seen.azimuthDeg - numberIn(row, 'az_deg')) * ARCSEC * Math.cos(toRad(altitudeDeg)));
    if (row.alt_refracted_deg === '') refraction.leaveOut();
    else {
      const air = { pressureHpa: numberIn(row, 'pressure_hpa'), temperatureC: 10 };
      const expectedDeg = numberIn(row, 'alt_refracted_deg') - altitudeDeg;
      refraction.add(((refractionDeg(altitudeDeg, air) - expectedDeg) * ARCSEC) / refractionSpreadArcsec(altitudeDeg));
    }
  }
  return [altitude, azimuth, refraction].map((tally) => tally.verdict());
}

/** What two accepted refraction models differ by (reference README). */
function refractionSpreadArcsec(altitudeDeg: number): number {
  if (altitudeDeg > 45) return 3;
  if (altitudeDeg > 15) return 8;
  if (altitudeDeg > 10) return 9;
  return altitudeDeg > 7 ? 11 : 22;
}

function judgeSunMoon(rows: readonly ReferenceRow[]): Verdict[] {
  const file = 'sunmoon.csv';
  const limits = { sun: { limit: 4 }, moon: { limit: 15, medianLimit: 6 } };
  const verdicts: Verdict[] = [];
  for (const luminary of ['sun', 'moon'] as const) {
    const altitude = new Tally({ file, quantity: `${luminary} altitude`, unit: '″', ...limits[luminary] });
    const azimuth = new Tally({ file, quantity: `${luminary} Δaz·cos(alt)`, unit: '″', ...limits[luminary] });
    for (const row of rows) {
      const seen = luminaryDirection(siteIn(row), luminary, momentIn(row, 'utc')!);
      const altitudeDeg = numberIn(row, `${luminary}_alt_deg`);
      altitude.add((seen.altitudeDeg - altitudeDeg) * ARCSEC);
      azimuth.add(
        wrap180(seen.azimuthDeg - numberIn(row, `${luminary}_az_deg`)) * ARCSEC * Math.cos(toRad(altitudeDeg)),
      );
    }
    verdicts.push(altitude.verdict(), azimuth.verdict());
  }
  const lit = new Tally({ file, quantity: 'moon lit share', unit: '', limit: 0.001 });
  for (const row of rows) lit.add(moonPhase(momentIn(row, 'utc')!).illuminatedShare - numberIn(row, 'moon_illum_geo'));
  return [...verdicts, lit.verdict()];
}

const TWILIGHTS = [
  ['sunset_utc', 'sunrise_utc', RISE_SET_ALTITUDE_DEG],
  ['civil_dusk_utc', 'civil_dawn_utc', -6],
  ['nautical_dusk_utc', 'nautical_dawn_utc', -12],
  ['astro_dusk_utc', 'astro_dawn_utc', -18],
] as const;

function judgeNight(rows: readonly ReferenceRow[]): Verdict[] {
  const file = 'night.csv';
  const grazing = `sun within ${GRAZING_SUN_DEG}° of the limit at its extreme`;
  const twilight = new Tally({ file, quantity: 'sun passages', unit: 's', limit: 1, leftOutRule: grazing });
  const absent = new Tally({
    file,
    quantity: 'events that happen or not',
    unit: 'differences',
    limit: 0,
    leftOutRule: grazing,
  });
  const dark = new Tally({ file, quantity: 'dark hours', unit: 's', limit: 4 });
  const moonless = new Tally({ file, quantity: 'dark moonless hours', unit: 's', limit: 60 });
  const moonAltitude = new Tally({ file, quantity: 'moon altitude at its events', unit: '″', limit: 15 });
  const moonTime = new Tally({
    file,
    quantity: 'moon events',
    unit: 's',
    limit: 3,
    leftOutRule: 'altitude changes by less than 6″/s',
  });
  for (const row of rows) {
    const site = siteIn(row);
    const window: Interval = {
      startUtcMs: momentIn(row, 'window_start_utc')!,
      endUtcMs: momentIn(row, 'window_end_utc')!,
    };
    const extremes = [numberIn(row, 'sun_min_alt_deg'), numberIn(row, 'sun_max_alt_deg')];
    for (const [duskName, dawnName, levelDeg] of TWILIGHTS) {
      const seen = sunPassage(site, window, levelDeg);
      const wellConditioned = extremes.every((extreme) => Math.abs(extreme - levelDeg) > GRAZING_SUN_DEG);
      for (const [name, utcMs] of [
        [duskName, seen.duskUtcMs],
        [dawnName, seen.dawnUtcMs],
      ] as const) {
        const expected = momentIn(row, name);
        if (!wellConditioned) {
          twilight.leaveOut();
          absent.leaveOut();
          continue;
        }
        absent.add((expected === null) === (utcMs === null) ? 0 : 1);
        if (expected !== null && utcMs !== null) twilight.add((utcMs - expected) / 1000);
      }
    }
    dark.add((hoursOf(darkIntervals(site, window)) - numberIn(row, 'dark_hours')) * 3600);
    moonless.add((hoursOf(darkMoonlessIntervals(site, window, 0)) - numberIn(row, 'dark_moonless_hours')) * 3600);
    judgeMoonEvents(row, window, { absent, moonAltitude, moonTime });
  }
  return [twilight, absent, dark, moonless, moonAltitude, moonTime].map((tally) => tally.verdict());
}

function judgeMoonEvents(
  row: ReferenceRow,
  window: Interval,
  tallies: { absent: Tally; moonAltitude: Tally; moonTime: Tally },
): void {
  const site = siteIn(row);
  const altitude = luminaryAltitude(site, 'moon', window);
  const crossings = moonCrossings(site, window, RISE_SET_ALTITUDE_DEG);
  for (const [name, countName, rising] of [
    ['moonrise_utc', 'n_moonrise', true],
    ['moonset_utc', 'n_moonset', false],
  ] as const) {
    const seen = crossings.filter((crossing) => crossing.rising === rising);
    const expected = momentIn(row, name);
    tallies.absent.add(seen.length - numberIn(row, countName));
    if (expected === null) continue;
    tallies.moonAltitude.add((altitude(expected) - RISE_SET_ALTITUDE_DEG) * ARCSEC);
    const arcsecPerSec = Math.abs(altitude(expected + 500) - altitude(expected - 500)) * ARCSEC;
    if (arcsecPerSec > 6 && seen.length > 0) tallies.moonTime.add((seen[0].utcMs - expected) / 1000);
    else tallies.moonTime.leaveOut();
  }
}

function judgeTransit(rows: readonly ReferenceRow[]): Verdict[] {
  const file = 'transit.csv';
  const transit = new Tally({ file, quantity: 'transit, share of max(1 s, 0.5″/(15 cos δ))', unit: '×', limit: 1 });
  const counts = new Tally({ file, quantity: 'transits in the window', unit: 'differences', limit: 0 });
  const altitude = new Tally({ file, quantity: 'altitude at transit', unit: '″', limit: 2 });
  const flag = new Tally({ file, quantity: 'crosses 30° / never / always', unit: 'differences', limit: 0 });
  const crossing = new Tally({ file, quantity: 'altitude at the 30° crossings', unit: '″', limit: 2 });
  const above = new Tally({ file, quantity: 'dark hours above 30°', unit: 's', limit: 4 });
  for (const row of rows) {
    const site = siteIn(row);
    const position = positionIn(row);
    const startUtcMs = momentIn(row, 'window_start_utc')!;
    const window = { startUtcMs, endUtcMs: startUtcMs + DAY_MS };
    const transits = transitsOf(site, position, window);
    const curve = targetAltitude(site, position, window);
    counts.add(transits.length - numberIn(row, 'n_transit'));
    transit.add(
      (transits[0] - momentIn(row, 'transit_utc')!) / 1000 / Math.max(1, 0.5 / (15 * Math.cos(toRad(position.decDeg)))),
    );
    altitude.add((curve(transits[0]) - numberIn(row, 'transit_alt_deg')) * ARCSEC);
    flag.add(flagOf(curve, window) === row.alt30_flag ? 0 : 1);
    for (const name of ['rise30_utc', 'set30_utc']) {
      const expected = momentIn(row, name);
      if (expected !== null) crossing.add((curve(expected) - 30) * ARCSEC);
    }
    const dark = darkIntervals(site, window);
    const hours = dark.reduce((sum, part) => sum + hoursOf([part]) - hoursOf(intervalsBelow(curve, 30, part)), 0);
    above.add((hours - numberIn(row, 'hours_above30_dark')) * 3600);
  }
  return [transit, counts, altitude, flag, crossing, above].map((tally) => tally.verdict());
}

function flagOf(curve: (utcMs: number) => number, window: Interval): string {
  if (crossingsOf(curve, 30, window).length > 0) return 'crosses';
  return extremeOf(curve, 'lowest', window).value > 30 ? 'always' : 'never';
}

function judgeSeparation(rows: readonly ReferenceRow[]): Verdict[] {
  const tally = new Tally({ file: 'separation.csv', quantity: 'moon separation', unit: '″', limit: 15 });
  for (const row of rows) {
    const seenDeg = moonSeparationDeg(siteIn(row), positionIn(row), momentIn(row, 'utc')!);
    tally.add((seenDeg - numberIn(row, 'moon_sep_deg')) * ARCSEC);
  }
  return [tally.verdict()];
}

function judgeAirmass(rows: readonly ReferenceRow[]): Verdict[] {
  const tally = new Tally({ file: 'airmass.csv', quantity: 'airmass (Pickering)', unit: '', limit: 1e-6 });
  for (const row of rows) tally.add(airmass(numberIn(row, 'alt_deg')) - numberIn(row, 'pickering2002'));
  return [tally.verdict()];
}

function judgeMoonsky(rows: readonly ReferenceRow[]): Verdict[] {
  const file = 'moonsky.csv';
  const dark = new Tally({ file, quantity: 'dark sky', unit: 'mag', limit: 0.001 });
  const total = new Tally({ file, quantity: 'sky with moon', unit: 'mag', limit: 0.001 });
  const change = new Tally({ file, quantity: 'brightening', unit: 'mag', limit: 0.001 });
  for (const row of rows) {
    const at = {
      phaseAngleDeg: numberIn(row, 'alpha_deg'),
      separationDeg: numberIn(row, 'rho_deg'),
      moonZenithDistanceDeg: numberIn(row, 'zm_deg'),
      targetZenithDistanceDeg: numberIn(row, 'z_deg'),
      extinctionMagPerAirmass: numberIn(row, 'k_mag_per_airmass'),
      zenithMagV: numberIn(row, 'bzen_mag'),
    };
    dark.add(magVOf(darkSkyNanolamberts(at)) - numberIn(row, 'dark_mag'));
    total.add(magVOf(darkSkyNanolamberts(at) + moonlightNanolamberts(at)) - numberIn(row, 'total_mag'));
    change.add(moonlightChangeMag(at) - numberIn(row, 'delta_v'));
  }
  return [dark, total, change].map((tally) => tally.verdict());
}
