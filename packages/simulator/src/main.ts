// The simulated observatory over HTTP: its rigs' devices, whole exposures for rigs without devices, forecasts, and pictures of the sky.
import { setPriority } from 'node:os';
import Fastify from 'fastify';
import type { PictureFrame } from '@meridiem/core';
import { forecastOf } from './forecast.ts';
import { postRoutes } from './post.ts';
import type { ExposureOrder } from './simulated-exposure.ts';
import { rigMemory } from './observatory/rig-memory.ts';
import { observatoryRoutes } from './observatory/routes.ts';
import { simulatedExposure } from './simulated-exposure.ts';
import type { SurveySky } from './survey.ts';
import { loadSurveySky, renderSky } from './survey.ts';
import { pngOf } from './survey-png.ts';

// A log that can't be written is lost; the work goes on.
for (const stream of [process.stdout, process.stderr]) stream.on('error', () => undefined);

/** What stands in for a sky gives way to those who look at it. */
const GIVES_WAY = 10;
setPriority(GIVES_WAY);

const ORDER_SCHEMA = {
  type: 'object',
  required: [
    'id',
    'skySeed',
    'overcast',
    'startUtcMs',
    'exposureSec',
    'filterClass',
    'imageScaleArcsec',
    'gain',
    'sensorC',
    'rateShare',
    'airmass',
    'transparency',
    'skyRatio',
    'afterMove',
  ],
  properties: {
    id: { type: 'string' },
    skySeed: { type: 'integer' },
    overcast: { type: 'number', minimum: 0, maximum: 1 },
    startUtcMs: { type: 'number' },
    exposureSec: { type: 'number', exclusiveMinimum: 0 },
    filterClass: { enum: ['broadband', 'narrowband', 'colour'] },
    imageScaleArcsec: { type: 'number', exclusiveMinimum: 0 },
    gain: { type: 'integer' },
    sensorC: { type: 'number' },
    rateShare: { type: 'number' },
    airmass: { type: 'number', minimum: 1 },
    transparency: { type: 'number', minimum: 0, maximum: 1 },
    skyRatio: { type: 'number', exclusiveMinimum: 0 },
    afterMove: { type: 'boolean' },
  },
} as const;

const app = Fastify({
  logger: { level: process.env.MERIDIEM_LOG_LEVEL ?? 'info' },
  // Whoever waits by a simulated clock does not hold up its end.
  forceCloseConnections: true,
});
app.get('/health', async () => ({ ok: true }));
app.post<{ Body: ExposureOrder }>('/exposures', { schema: { body: ORDER_SCHEMA } }, async ({ body }) => ({
  exposure: simulatedExposure(body),
}));

const PICTURE_SCHEMA = {
  type: 'object',
  required: ['ra', 'dec', 'width', 'px'],
  properties: {
    ra: { type: 'number', minimum: 0, exclusiveMaximum: 360 },
    dec: { type: 'number', minimum: -90, maximum: 90 },
    width: { type: 'number', exclusiveMinimum: 0, maximum: 40 },
    px: { type: 'integer', minimum: 16, maximum: 1024 },
  },
} as const;
const FORECAST_SCHEMA = {
  type: 'object',
  required: ['from', 'hours'],
  properties: { from: { type: 'number' }, hours: { type: 'integer', minimum: 1, maximum: 240 } },
} as const;
app.get<{ Querystring: { from: number; hours: number } }>(
  '/forecast',
  { schema: { querystring: FORECAST_SCHEMA } },
  async ({ query: { from, hours } }) => ({ hours: forecastOf('station', from, hours) }),
);

let surveySky: SurveySky | null = null;
const sky = (): SurveySky => (surveySky ??= loadSurveySky(process.env.MERIDIEM_CATALOGUE ?? ''));
await app.register(observatoryRoutes, {
  realNowMs: () => performance.now(),
  startUtcMs: () => Date.now(),
  stars: () => sky().stars,
  memory: rigMemory(process.env.MERIDIEM_RIGS ?? null),
  isCalm: process.env.MERIDIEM_SIMULATED_SKY === 'calm',
});
app.get<{ Querystring: { ra: number; dec: number; width: number; px: number } }>(
  '/survey',
  { schema: { querystring: PICTURE_SCHEMA } },
  async ({ query: { ra, dec, width, px } }, reply) => {
    const frame: PictureFrame = { centre: { raDeg: ra, decDeg: dec }, widthDeg: width };
    return reply.type('image/png').send(pngOf(renderSky(sky(), frame, px), px));
  },
);
const postPort = process.env.MERIDIEM_POST_PORT;
await app.register(postRoutes, { port: postPort ? Number(postPort) : null });
await app.listen({ host: '127.0.0.1', port: Number(process.env.MERIDIEM_SIMULATOR_PORT ?? 4311) });
for (const signal of ['SIGTERM', 'SIGINT'] as const)
  process.on(signal, () => void app.close().then(() => process.exit(0)));
