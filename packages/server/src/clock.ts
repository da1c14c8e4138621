// The only source of "now" in the server.
export interface Clock {
  readonly nowUtcMs: () => number;
}

/** The real clock, or one that started at a given moment and runs at the real pace. */
export function createClock(startUtcMs: number | null = null): Clock {
  const shiftMs = startUtcMs === null ? 0 : startUtcMs - Date.now();
  return { nowUtcMs: () => Date.now() + shiftMs };
}
