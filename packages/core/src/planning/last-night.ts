// What a project's work counts for the night it is done in: all until its last night, and after it nothing, or less night by night.
const DAY_MS = 86_400_000;

export interface LastNight {
  /** As yyyy-mm-dd; null where no night is the last. */
  readonly lastNight: string | null;
  /** Nights after the last one until nothing counts any more; null for nothing at once. */
  readonly decayNights: number | null;
}

/** @returns [0, 1] */
export function countsOn(nightDate: string, { lastNight, decayNights }: LastNight): number {
  if (lastNight === null || nightDate <= lastNight) return 1;
  const nightsLate = Math.round((Date.parse(nightDate) - Date.parse(lastNight)) / DAY_MS);
  return decayNights === null ? 0 : Math.max(0, 1 - nightsLate / decayNights);
}
