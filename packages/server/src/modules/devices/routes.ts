import { editRigDevices, readRigDevices, setNightRule, testRigDevices } from '@meridiem/contract';
import type { FastifyInstance } from 'fastify';
import { serve } from '../../plugins/operations.ts';
import type { DeviceService } from './service.ts';

export async function deviceRoutes(app: FastifyInstance, { service }: { service: DeviceService }): Promise<void> {
  serve(app, readRigDevices, async ({ viewer, params }) => service.read(viewer, params.id));
  serve(app, editRigDevices, async ({ viewer, params, body }) => service.edit(viewer, params.id, body));
  serve(app, setNightRule, async ({ viewer, params, body }) => service.setNightRule(viewer, params.id, body));
  serve(app, testRigDevices, async ({ viewer, params }) => service.test(viewer, params.id));
}
