// Asking the forecast service: an address from the installation alone, no redirects, bounded in time, its answer checked before it is believed.
import type { ForecastHour } from '@meridiem/core';
import { HOUR_MS } from '@meridiem/core';
import { Ajv } from 'ajv';
import { ServiceError } from '../../errors.ts';

/** Hours asked of the service, beginning some before now. */
const HOURS_AHEAD = 96;
const HOURS_BEFORE = 6;
const LONGEST_MS = 5000;
const MOST_HOURS = 5000;

const SHARE = { type: 'number', minimum: 0, maximum: 1 } as const;
const isAnswer = new Ajv().compile<{ hours: ForecastHour[] }>({
  type: 'object',
  required: ['hours'],
  properties: {
    hours: {
      type: 'array',
      minItems: 1,
      maxItems: MOST_HOURS,
      items: {
        type: 'object',
        required: ['source', 'utcMs', 'cloudShare', 'windMPerSec', 'humidityShare'],
        properties: {
          source: { type: 'string', minLength: 1, maxLength: 60 },
          utcMs: { type: 'integer', multipleOf: HOUR_MS },
          cloudShare: SHARE,
          windMPerSec: { type: 'number', minimum: 0, maximum: 150 },
          humidityShare: SHARE,
        },
      },
    },
  },
});

/** What the service says now.
 * @param serviceUrl null where there is none
 * @throws NOT_READY where there is no service, it is silent, or what it says is no forecast */
export async function fetchForecast(serviceUrl: string | null, nowUtcMs: number): Promise<ForecastHour[]> {
  if (!serviceUrl) throw new ServiceError('NOT_READY', 'There is no forecast service; take a forecast in as a file');
  const fromUtcMs = (Math.floor(nowUtcMs / HOUR_MS) - HOURS_BEFORE) * HOUR_MS;
  const answer = await fetch(`${serviceUrl}/forecast?from=${fromUtcMs}&hours=${HOURS_AHEAD}`, {
    redirect: 'error',
    signal: AbortSignal.timeout(LONGEST_MS),
  }).catch(() => null);
  if (!answer?.ok) throw new ServiceError('NOT_READY', 'The forecast service does not answer just now');
  const said: unknown = await answer.json().catch(() => null);
  if (!isAnswer(said)) throw new ServiceError('NOT_READY', 'The forecast service answers with no forecast');
  return said.hours;
}
