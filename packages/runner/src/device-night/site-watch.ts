// The site, read about once a minute beside everything else: what Watch shows of it, and whether the air lets the night go on.
import type { SiteReading } from '@meridiem/contract';
import type { NightRules } from '@meridiem/core';
import { mayResume, pauseWords } from '@meridiem/core';
import type { DeviceSet } from './device-set.ts';
import type { NightClock } from './night-clock.ts';
import type { SafetyWatch } from './safety-watch.ts';

const READ_EVERY_SEC = 60;

export interface SiteWatch {
  /** Why the night is paused, in words; null while it may go on. */
  readonly pausedFor: string | null;
  /** Something else shows that the sky is not good enough: it must be good for as long as conditions must hold. */
  pause(words: string): void;
  /** Of the air, as last read; null where nothing measures it. */
  readonly airC: number | null;
  /** The newest reading that has not been asked for yet. */
  takeReading(): SiteReading | null;
  stop(): Promise<void>;
}

interface SiteParts {
  readonly devices: DeviceSet;
  readonly clock: NightClock;
  readonly safetyWatch: SafetyWatch;
  readonly rules: NightRules;
}

export function watchSite({ devices, clock, safetyWatch, rules }: SiteParts): SiteWatch {
  let [newest, airC, isOver]: [SiteReading | null, number | null, boolean] = [null, null, false];
  let paused: { readonly words: string; goodSinceUtcMs: number } | null = null;
  const judge = (reading: SiteReading): void => {
    const words = pauseWords(rules, reading);
    if (words && !paused) clock.wake();
    if (words) paused = { words, goodSinceUtcMs: Number.POSITIVE_INFINITY };
    if (!paused || words) return;
    if (!mayResume(rules, reading)) paused.goodSinceUtcMs = Number.POSITIVE_INFINITY;
    else paused.goodSinceUtcMs = Math.min(paused.goodSinceUtcMs, reading.utcMs);
    if (reading.utcMs - paused.goodSinceUtcMs >= 60_000 * rules.conditionsHoldMin) paused = null;
  };
  const beside = clock.beside();
  const watching = (async () => {
    while (!isOver) {
      newest = await readSite(devices, clock, safetyWatch).catch(() => null);
      if (newest) {
        airC = newest.temperatureC ?? airC;
        judge(newest);
      }
      await beside.wait(READ_EVERY_SEC).catch(() => undefined);
    }
  })();
  return {
    get pausedFor() {
      return paused?.words ?? null;
    },
    get airC() {
      return airC;
    },
    pause(words) {
      paused = { words, goodSinceUtcMs: Number.POSITIVE_INFINITY };
    },
    takeReading() {
      const taken = newest;
      newest = null;
      return taken;
    },
    async stop() {
      isOver = true;
      beside.end();
      await watching;
    },
  };
}

async function readSite(devices: DeviceSet, clock: NightClock, { isSafe }: SafetyWatch): Promise<SiteReading> {
  const orNull = <T>(reading: Promise<T>): Promise<T | null> => reading.catch(() => null);
  const [air, sensorC, coolerPowerPercent, guider, mount, roof] = await Promise.all([
    orNull(devices.conditions.read()),
    orNull(devices.camera.temperatureC()),
    orNull(devices.camera.coolerPowerPercent()),
    orNull(devices.guider.state()),
    orNull(devices.mount.state()),
    orNull(devices.roof.state()),
  ]);
  return {
    utcMs: await clock.nowUtcMs(),
    isSafe,
    temperatureC: air?.temperatureC ?? null,
    humidityPercent: air?.humidityPercent ?? null,
    windMPerSec: air?.windMPerSec ?? null,
    cloudCoverPercent: air?.cloudCoverPercent ?? null,
    sensorC,
    coolerPowerPercent,
    guidingRmsArcsec: guider?.rmsArcsec ?? null,
    altitudeDeg: mount?.altitudeDeg ?? null,
    azimuthDeg: mount?.azimuthDeg ?? null,
    isParked: mount?.isParked ?? null,
    roof: roof === null || roof === 'error' ? null : roof === 'open' || roof === 'closed' ? roof : 'moving',
  };
}
