// Forecasts of a night from several sources to hours expected clear, and one call: go, wait or no-go.
import type { Interval } from '../time/nights.ts';
import type { UtcMs } from '../units.ts';
import { HOUR_MS } from '../units.ts';

/** What one source expects of one hour. */
export interface ForecastHour {
  readonly source: string;
  /** Start of the hour. */
  readonly utcMs: UtcMs;
  readonly cloudShare: number;
  readonly windMPerSec: number;
  readonly humidityShare: number;
}

export type NightCall = 'go' | 'wait' | 'no_go';

/** From when on an hour counts as clear, and a night as worth opening for. Choices, not facts. */
export const DEFAULT_FORECAST_RULES = {
  maxCloudShare: 0.3,
  maxWindMPerSec: 12,
  maxHumidityShare: 0.9,
  goShare: 0.6,
  noGoShare: 0.15,
} as const;

export interface NightOutlook {
  /** null where no source speaks of the darkness. */
  readonly call: NightCall | null;
  /** The middle source's expectation, hours. */
  readonly hoursClear: number;
  readonly hoursDark: number;
  /** Sources that lead to the same call. */
  readonly agreeing: number;
  readonly sources: readonly { readonly source: string; readonly hoursClear: number; readonly call: NightCall }[];
}

export const isClear = (hour: ForecastHour, rules = DEFAULT_FORECAST_RULES): boolean =>
  hour.cloudShare <= rules.maxCloudShare &&
  hour.windMPerSec <= rules.maxWindMPerSec &&
  hour.humidityShare <= rules.maxHumidityShare;

/** The call that most sources lead to; where none does, wait.
 * @param dark the stretch of the night that counts */
export function nightOutlook(
  hours: readonly ForecastHour[],
  dark: Interval | null,
  rules = DEFAULT_FORECAST_RULES,
): NightOutlook {
  const hoursDark = dark ? (dark.endUtcMs - dark.startUtcMs) / HOUR_MS : 0;
  const names = [...new Set(hours.map(({ source }) => source))].sort();
  const sources = names.flatMap((source) => {
    const own = hours.filter((hour) => hour.source === source && sharedHours(hour.utcMs, dark) > 0);
    if (own.length === 0) return [];
    const hoursClear = own
      .filter((hour) => isClear(hour, rules))
      .reduce((sum, { utcMs }) => sum + sharedHours(utcMs, dark), 0);
    return [{ source, hoursClear, call: callOf(hoursClear / hoursDark, rules) }];
  });
  if (sources.length === 0) return { call: null, hoursClear: 0, hoursDark, agreeing: 0, sources };
  const votes = (call: NightCall): number => sources.filter((source) => source.call === call).length;
  const call = (['go', 'no_go'] as const).find((one) => votes(one) > sources.length / 2) ?? 'wait';
  return {
    call,
    hoursClear: middle(sources.map(({ hoursClear }) => hoursClear)),
    hoursDark,
    agreeing: votes(call),
    sources,
  };
}

function callOf(clearShare: number, { goShare, noGoShare }: typeof DEFAULT_FORECAST_RULES): NightCall {
  if (clearShare >= goShare) return 'go';
  return clearShare < noGoShare ? 'no_go' : 'wait';
}

/** Hours of an hour that lie in the darkness. */
const sharedHours = (utcMs: UtcMs, dark: Interval | null): number =>
  dark ? Math.max(0, Math.min(utcMs + HOUR_MS, dark.endUtcMs) - Math.max(utcMs, dark.startUtcMs)) / HOUR_MS : 0;

function middle(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  const half = Math.floor(sorted.length / 2);
  return sorted.length % 2 === 1 ? sorted[half] : (sorted[half - 1] + sorted[half]) / 2;
}
