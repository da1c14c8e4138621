// The sky of a night for drawing, sampled coarsely, with its events to the second.
import type { NightSky } from '@meridiem/contract';
import type { ObservingNight, Site } from '@meridiem/core';
import {
  darkIntervals,
  darkMoonlessIntervals,
  HOUR_MS,
  hoursOf,
  MINUTE_MS,
  moonCrossings,
  moonlightRatio,
  nightTable,
  RISE_SET_ALTITUDE_DEG,
  sunPassage,
} from '@meridiem/core';

const STEP_MS = 5 * MINUTE_MS;

export function nightSky(site: Site & { zenithMagV: number }, night: ObservingNight): NightSky {
  const day = sunPassage(site, night, RISE_SET_ALTITUDE_DEG);
  const dark = sunPassage(site, night, -18);
  const viewStartUtcMs = day.duskUtcMs === null ? night.startUtcMs : day.duskUtcMs - HOUR_MS;
  const viewEndUtcMs = day.dawnUtcMs === null ? night.endUtcMs : day.dawnUtcMs + HOUR_MS;
  const table = nightTable(site, { startUtcMs: viewStartUtcMs, endUtcMs: viewEndUtcMs }, STEP_MS / 1000);
  const moon = moonCrossings(site, { startUtcMs: viewStartUtcMs, endUtcMs: viewEndUtcMs }, RISE_SET_ALTITUDE_DEG);
  return {
    nightDate: night.nightDate,
    startUtcMs: night.startUtcMs,
    endUtcMs: night.endUtcMs,
    viewStartUtcMs,
    viewEndUtcMs,
    stepMs: STEP_MS,
    sunAltitudeDeg: rounded(table.sunAltitudeDeg),
    moonAltitudeDeg: rounded(table.moonAltitudeDeg),
    moonBrighteningMag: rounded(
      Float64Array.from(table.moonAltitudeDeg, (moonAltitudeDeg, i) =>
        zenithBrighteningMag(site, table.moonPhaseAngleDeg[i], moonAltitudeDeg),
      ),
    ),
    sunsetUtcMs: day.duskUtcMs,
    sunriseUtcMs: day.dawnUtcMs,
    duskUtcMs: dark.duskUtcMs,
    dawnUtcMs: dark.dawnUtcMs,
    moonriseUtcMs: moon.find((crossing) => crossing.rising)?.utcMs ?? null,
    moonsetUtcMs: moon.find((crossing) => !crossing.rising)?.utcMs ?? null,
    darkHours: hoursOf(darkIntervals(site, night)),
    darkMoonlessHours: hoursOf(darkMoonlessIntervals(site, night)),
    moonIlluminatedShare: table.moonIlluminatedShare,
  };
}

const rounded = (values: Float64Array): number[] => Array.from(values, (value) => Math.round(value * 100) / 100);

/** What the moon adds at the zenith, in magnitudes, 0 or more: the width of the ribbon on the night strip. */
function zenithBrighteningMag(site: { zenithMagV: number }, phaseAngleDeg: number, moonAltitudeDeg: number): number {
  const ratio = moonlightRatio({
    phaseAngleDeg,
    moonAltitudeDeg,
    altitudeDeg: 90,
    separationDeg: 90 - moonAltitudeDeg,
    zenithMagV: site.zenithMagV,
  });
  return 2.5 * Math.log10(1 + ratio);
}
