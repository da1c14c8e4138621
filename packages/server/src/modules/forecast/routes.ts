import { fetchForecast, importForecast, readForecast } from '@meridiem/contract';
import type { FastifyInstance } from 'fastify';
import { serve } from '../../plugins/operations.ts';
import type { ForecastService } from './service.ts';

export async function forecastRoutes(app: FastifyInstance, { service }: { service: ForecastService }): Promise<void> {
  serve(app, readForecast, async ({ viewer, params }) => service.read(viewer, params.nightDate));
  serve(app, fetchForecast, async ({ viewer }) => service.fetch(viewer));
  serve(app, importForecast, async ({ viewer, body }) => service.import(viewer, body.text));
}
