// What the demo's members keep for later: a few real places under two themes, and one comet with made-up elements.
import type { Orbit } from '@meridiem/core';
import { mjdTtOf } from '@meridiem/core';

export const THEMES = [
  { key: 'dust', name: 'Southern dust', take: 'any' },
  { key: 'visitors', name: 'Visitors', take: 'all' },
] as const;

export const SHELVED = [
  { key: 'corona', name: 'Corona Australis dust', raDeg: 285.48, decDeg: -36.95, sizeArcmin: 55, theme: 'dust' },
  { key: 'chamaeleon', name: 'Chamaeleon dust', raDeg: 166.2, decDeg: -77.3, sizeArcmin: 120, theme: 'dust' },
  { key: 'vela', name: 'Vela filaments', raDeg: 129.8, decDeg: -43.2, sizeArcmin: 180, theme: 'dust' },
] as const;

/** Perihelion six weeks ahead, elements two weeks old, whenever the demo begins. */
export function demoComet(nowUtcMs: number): { readonly orbit: Orbit; readonly line: string } {
  const today = Math.floor(mjdTtOf(nowUtcMs));
  const orbit: Orbit = {
    kind: 'comet',
    name: 'C/2026 M9 (Marwick)',
    epochMjdTt: today - 14,
    perihelionMjdTt: today + 42.25,
    perihelionDistanceAu: 1.3045,
    eccentricity: 0.9987,
    inclinationDeg: 117.56,
    nodeDeg: 120.34,
    perihelionArgumentDeg: 285.12,
  };
  return { orbit, line: 'made up for the demo' };
}
