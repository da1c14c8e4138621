// How a rig's devices are reached: read and set by coordinators, asked by whoever carries out a night.
import type { BodyOf, DeviceTest, editRigDevices, RigDevices } from '@meridiem/contract';
import type { Config } from '../../config.ts';
import type { Database, Queries } from '../../database/connection.ts';
import type { Rig } from '../../database/models/rig.ts';
import { ServiceError } from '../../errors.ts';
import { announce } from '../../plugins/live.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import type { ChangeService } from '../changes/index.ts';
import type { ObservatoryService } from '../observatory/index.ts';
import { baseUrlOf, checkAddress } from './addresses.ts';
import type { OwnNightRules } from './night-rules.ts';
import { createNightRules, ownRules } from './night-rules.ts';
import { rigOf } from './rig-row.ts';
import { testDevices, testSimulator } from './testing.ts';

export interface DeviceParts {
  readonly database: Database;
  readonly config: Pick<Config, 'simulatorUrl' | 'deviceHosts'>;
  readonly changes: ChangeService;
  readonly observatory: ObservatoryService;
}

export interface ReachedDevices {
  readonly baseUrl: string;
  readonly isSimulated: boolean;
  /** The rig's own numbers; see NIGHT_RULES of the core. */
  readonly nightRules: OwnNightRules;
}

export type DeviceService = ReturnType<typeof createDeviceService>;

export function createDeviceService({ database, config, changes, observatory }: DeviceParts) {
  const store = async (queries: Queries, rig: Rig, { devices, devicesUrl }: Pick<Rig, 'devices' | 'devicesUrl'>) => {
    await rig.update({ devices, devicesUrl });
    for (const topic of ['observatory', 'run'] as const) await announce(queries, rig.observatoryId, topic, [rig.id]);
  };
  changes.register('rig_devices', {
    by: 'coordinator',
    takeBack: async (queries, viewer, { entityId, before, after }) => {
      const rig = await rigOf(queries, viewer, entityId);
      if (rig.devices !== after.devices || rig.devicesUrl !== after.devicesUrl)
        throw new ServiceError('CONFLICT', 'Another person has changed this since; undo would remove their change');
      await store(queries, rig, before as Pick<Rig, 'devices' | 'devicesUrl'>);
    },
  });

  const rules = createNightRules({ database, changes });
  return {
    ...rules,

    async read(viewer: Viewer, rigId: string): Promise<RigDevices> {
      const { devices: kind, devicesUrl: url, nightRules } = await rigOf(database, viewer, rigId);
      return { rigId, kind, url, hosts: [...config.deviceHosts], nightRules: ownRules(nightRules) };
    },

    async edit(viewer: Viewer, rigId: string, { kind, url }: BodyOf<typeof editRigDevices>): Promise<{ ok: true }> {
      const devicesUrl = kind === 'address' ? checkAddress(url ?? '', config.deviceHosts) : null;
      await database.transaction(async (queries) => {
        const rig = await rigOf(queries, viewer, rigId, true);
        const before = { devices: rig.devices, devicesUrl: rig.devicesUrl };
        const after = { devices: kind, devicesUrl };
        await store(queries, rig, after);
        await changes.record(queries, viewer, {
          entity: 'rig_devices',
          entityId: rigId,
          projectId: null,
          words: `how the devices of ${rig.name} are reached`,
          before,
          after,
        });
      });
      return { ok: true };
    },

    async test(viewer: Viewer, rigId: string): Promise<{ devices: DeviceTest[] }> {
      const { rigs } = await observatory.read(viewer.observatoryId);
      const rig = rigs.find(({ id }) => id === rigId);
      const stored = await rigOf(database, viewer, rigId);
      const reached = rig && baseUrlOf({ rigId, kind: stored.devices, url: stored.devicesUrl }, config);
      if (!reached) throw new ServiceError('NOT_POSSIBLE', 'This rig has no devices that could be asked');
      // A simulated rig is built when its first night begins; until then it is there as soon as its observatory is.
      if (stored.devices === 'simulated') return { devices: [await testSimulator(config.simulatorUrl!)] };
      return { devices: await testDevices(reached, rig.rotatorKind === 'motor') };
    },

    /** For the runner: where a rig's devices answer; null where it has none. */
    async reachedFor(queries: Queries, rigId: string): Promise<ReachedDevices | null> {
      const rig = await queries.models.Rig.findByPk(rigId);
      const baseUrl = rig && baseUrlOf({ rigId, kind: rig.devices, url: rig.devicesUrl }, config);
      return baseUrl
        ? { baseUrl, isSimulated: rig.devices === 'simulated', nightRules: ownRules(rig.nightRules) }
        : null;
    },
  };
}
