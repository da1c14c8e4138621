// Hours in which a person wants no message: from one clock time to another, over midnight as well.
import { DateTime } from 'luxon';
import type { UtcMs } from '../units.ts';

/** Minutes after local midnight. */
export interface QuietHours {
  readonly fromMin: number;
  readonly toMin: number;
}

/** When a person may be written to again: the moment itself outside quiet hours, else their end, by the person's clocks. */
export function quietUntilUtcMs(utcMs: UtcMs, { fromMin, toMin }: QuietHours, timeZone: string): UtcMs {
  const local = DateTime.fromMillis(utcMs, { zone: timeZone });
  const minute = local.hour * 60 + local.minute;
  const isQuiet = fromMin < toMin ? fromMin <= minute && minute < toMin : minute >= fromMin || minute < toMin;
  if (!isQuiet) return utcMs;
  const day = minute < toMin ? local : local.plus({ days: 1 });
  const end = day.set({ hour: Math.floor(toMin / 60), minute: toMin % 60, second: 0, millisecond: 0 });
  return end.toMillis();
}
