// The devices of one rig, each with its name as people know it.
import type { DeviceKind } from '@meridiem/devices';
import {
  alpacaDevice,
  cameraClient,
  conditionsClient,
  flatLightClient,
  focuserClient,
  guiderClient,
  mountClient,
  nextClientId,
  roofClient,
  rotatorClient,
  safetyClient,
  solverClient,
  wheelClient,
} from '@meridiem/devices';
import { SAFETY_TIMEOUT_MS } from './safety-watch.ts';

/** Pictures of a large sensor take their time. */
const CAMERA_TIMEOUT_MS = 30_000;

export function deviceSet(baseUrl: string) {
  const clientId = nextClientId();
  const device = (kind: DeviceKind, name: string, timeoutMs?: number) =>
    alpacaDevice({ baseUrl, kind, number: 0 }, { name, timeoutMs, clientId });
  return {
    mount: mountClient(device('telescope', 'mount')),
    camera: cameraClient(device('camera', 'camera', CAMERA_TIMEOUT_MS)),
    wheel: wheelClient(device('filterwheel', 'filter wheel')),
    focuser: focuserClient(device('focuser', 'focuser')),
    rotator: rotatorClient(device('rotator', 'rotator')),
    roof: roofClient(device('dome', 'roof')),
    safety: safetyClient(device('safetymonitor', 'safety monitor', SAFETY_TIMEOUT_MS)),
    conditions: conditionsClient(device('observingconditions', 'weather station')),
    flatLight: flatLightClient(device('covercalibrator', 'flat light')),
    guider: guiderClient(baseUrl),
    solver: solverClient(baseUrl),
  };
}
export type DeviceSet = ReturnType<typeof deviceSet>;
