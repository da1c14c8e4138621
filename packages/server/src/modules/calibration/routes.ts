import { readCalibration } from '@meridiem/contract';
import type { FastifyInstance } from 'fastify';
import { serve } from '../../plugins/operations.ts';
import type { CalibrationService } from './service.ts';

export async function calibrationRoutes(
  app: FastifyInstance,
  { service }: { service: CalibrationService },
): Promise<void> {
  serve(app, readCalibration, async ({ viewer, query }) => service.read(viewer, query));
}
