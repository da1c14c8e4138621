import type { Static } from 'typebox';
import { Type } from 'typebox';
import { NightDateText, Nullable, oneOf, UtcMs } from './common.ts';
import { COORDINATORS, EVERYONE, operation } from './operation.ts';

/** One source's hour: cloud and humidity as shares, wind in metres a second. */
const SourceHour = Type.Object({
  source: Type.String(),
  cloudShare: Type.Number(),
  windMPerSec: Type.Number(),
  humidityShare: Type.Number(),
});

export const NightForecast = Type.Object({
  nightDate: Type.String(),
  /** Go, wait or no-go for this night; null where no source speaks of it. */
  call: Nullable(oneOf(['go', 'wait', 'no_go'] as const)),
  hoursClear: Type.Number(),
  hoursDark: Type.Number(),
  /** Sources that lead to the same call, of those that speak of this night. */
  agreeing: Type.Integer(),
  sources: Type.Array(Type.Object({ source: Type.String(), issuedUtcMs: UtcMs, hoursClear: Type.Number() })),
  hours: Type.Array(
    Type.Object({
      utcMs: UtcMs,
      /** Share of sources that call the hour clear. */
      clearShare: Type.Number(),
      bySource: Type.Array(SourceHour),
    }),
  ),
});
export type NightForecast = Static<typeof NightForecast>;

export const readForecast = operation({
  method: 'GET',
  path: '/nights/:nightDate/forecast',
  summary: 'What the forecasts expect of a night, source by source, with the call they lead to.',
  access: EVERYONE,
  params: Type.Object({ nightDate: Type.Union([NightDateText, Type.Literal('tonight')]) }),
  response: NightForecast,
});

export const fetchForecast = operation({
  method: 'POST',
  path: '/forecasts/fetch',
  summary: 'Refresh the forecast for the coming nights.',
  access: COORDINATORS,
  isDear: true,
  response: Type.Object({ sources: Type.Integer(), hours: Type.Integer() }),
});

export const importForecast = operation({
  method: 'POST',
  path: '/forecasts',
  summary: 'Import a forecast as CSV or JSON: source, UTC hour, cloud, wind, humidity.',
  access: COORDINATORS,
  body: Type.Object({ text: Type.String({ minLength: 1, maxLength: 1_000_000 }) }),
  response: Type.Object({ sources: Type.Integer(), hours: Type.Integer() }),
});
