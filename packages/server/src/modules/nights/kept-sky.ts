// Figures of a night's sky worked out once for a site and a night: they depend on nothing else.
import type { NightSky } from '@meridiem/contract';
import type { Interval, ObservingNight, Site } from '@meridiem/core';
import { darkIntervals } from '@meridiem/core';
import { LRUCache } from 'lru-cache';
import { nightSky } from './sky.ts';

const MOST_NIGHTS = 400;

type SkySite = Site & { readonly zenithMagV: number };

const skies = new LRUCache<string, NightSky>({ max: MOST_NIGHTS });
const passages = new LRUCache<string, readonly Interval[]>({ max: MOST_NIGHTS * 4 });

const siteKey = ({ latitudeDeg, longitudeDeg, elevationM }: Site): string =>
  `${latitudeDeg} ${longitudeDeg} ${elevationM}`;

/** The sky of a night for drawing. */
export function keptNightSky(site: SkySite, night: ObservingNight): NightSky {
  const key = `${siteKey(site)} ${site.zenithMagV} ${night.startUtcMs} ${night.endUtcMs}`;
  const known = skies.get(key);
  if (known) return known;
  const sky = nightSky(site, night);
  skies.set(key, sky);
  return sky;
}

/** Stretches of a night in which the sun is lower than an altitude: the whole night where it never rises so high. */
export function keptDarkness(site: Site, night: ObservingNight, sunAltitudeDeg: number): readonly Interval[] {
  const key = `${siteKey(site)} ${night.startUtcMs} ${night.endUtcMs} ${sunAltitudeDeg}`;
  const known = passages.get(key);
  if (known) return known;
  const windows = darkIntervals(site, night, sunAltitudeDeg);
  passages.set(key, windows);
  return windows;
}
