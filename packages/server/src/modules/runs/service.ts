// Nights that play: asked for by a person, carried out by one runner.
import type { Clock } from '../../clock.ts';
import type { Database } from '../../database/connection.ts';
import type { DeviceService } from '../devices/index.ts';
import type { ObservatoryService } from '../observatory/index.ts';
import { createAlarms } from './alarms.ts';
import { createCarryingOut } from './carrying-out.ts';
import { createCalibrationFrames } from './calibration-frames.ts';
import { createHandOrders } from './hand-orders.ts';
import { createOrdering } from './ordering.ts';
import type { PlanRest } from './replanning.ts';
import { createReplanning } from './replanning.ts';
import { createTestShots } from './test-shots.ts';
import { createWatching } from './watching.ts';

export interface RunServiceParts {
  readonly database: Database;
  readonly clock: Clock;
  readonly observatory: ObservatoryService;
  readonly devices: DeviceService;
  readonly planRest: PlanRest;
}

export type RunService = ReturnType<typeof createRunService>;

export const createRunService = (parts: RunServiceParts) => ({
  ...createOrdering(parts),
  ...createCarryingOut(parts),
  ...createWatching(parts),
  ...createAlarms(parts),
  ...createHandOrders(parts),
  ...createTestShots(parts),
  ...createReplanning(parts),
  ...createCalibrationFrames(parts),
});
