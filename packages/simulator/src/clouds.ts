// The simulated sky's clouds: a smooth, seeded function of time.
import { HOUR_MS, seededRandom, seedFrom } from '@meridiem/core';

/** How far apart the sky's moods are; between them it changes smoothly. */
const MOOD_MS = HOUR_MS / 2;

/** Light that clouds take at a moment.
 * @param overcast how cloudy the whole night is, [0, 1]: 0.15 gives a mostly clear night with some spoiled stretches
 * @returns share, [0, 1] */
export function cloudShare(seed: number, utcMs: number, overcast: number): number {
  const before = Math.floor(utcMs / MOOD_MS);
  const along = utcMs / MOOD_MS - before;
  const smooth = along * along * (3 - 2 * along);
  const mood = moodAt(seed, before) * (1 - smooth) + moodAt(seed, before + 1) * smooth;
  const threshold = 1 - overcast;
  return mood <= threshold ? 0 : Math.min(1, (mood - threshold) / Math.max(0.05, overcast));
}

const moodAt = (seed: number, index: number): number => seededRandom(seed ^ seedFrom(String(index)))();
