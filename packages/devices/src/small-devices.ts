// What has few properties: wheel, focuser, rotator, roof, safety, conditions, flat light.
import type { AlpacaDevice } from './alpaca.ts';

export const wheelClient = (device: AlpacaDevice) => ({
  device,
  names: () => device.get<string[]>('names'),
  /** From 0; null while it moves. */
  place: async (): Promise<number | null> => {
    const place = await device.get<number>('position');
    return place < 0 ? null : place;
  },
  beginMove: (place: number) => device.put('position', { Position: place }),
});

export const focuserClient = (device: AlpacaDevice) => ({
  device,
  positionSteps: () => device.get<number>('position'),
  mostSteps: () => device.get<number>('maxstep'),
  isMoving: () => device.get<boolean>('ismoving'),
  /** null where it has no thermometer. */
  temperatureC: () => device.get<number>('temperature').catch(() => null),
  beginMove: (steps: number) => device.put('move', { Position: Math.round(steps) }),
  halt: () => device.put('halt'),
});

export const rotatorClient = (device: AlpacaDevice) => ({
  device,
  mechanicalDeg: () => device.get<number>('mechanicalposition'),
  isMoving: () => device.get<boolean>('ismoving'),
  beginMove: (mechanicalDeg: number) => device.put('movemechanical', { Position: ((mechanicalDeg % 360) + 360) % 360 }),
  halt: () => device.put('halt'),
});

export type RoofState = 'open' | 'closed' | 'opening' | 'closing' | 'error';
const ROOF_STATES: readonly RoofState[] = ['open', 'closed', 'opening', 'closing', 'error'];

export const roofClient = (device: AlpacaDevice) => ({
  device,
  state: async (): Promise<RoofState> => ROOF_STATES[await device.get<number>('shutterstatus')] ?? 'error',
  beginOpen: () => device.put('openshutter'),
  beginClose: () => device.put('closeshutter'),
});

export const safetyClient = (device: AlpacaDevice) => ({
  device,
  isSafe: () => device.get<boolean>('issafe'),
});

export interface Conditions {
  readonly cloudCoverPercent: number | null;
  readonly windMPerSec: number | null;
  readonly temperatureC: number | null;
  readonly humidityPercent: number | null;
}

export const conditionsClient = (device: AlpacaDevice) => ({
  device,
  /** What the station does not measure is null. */
  read: async (): Promise<Conditions> => {
    const measured = (property: string): Promise<number | null> => device.get<number>(property).catch(() => null);
    const [cloudCoverPercent, windMPerSec, temperatureC, humidityPercent] = await Promise.all(
      ['cloudcover', 'windspeed', 'temperature', 'humidity'].map(measured),
    );
    return { cloudCoverPercent, windMPerSec, temperatureC, humidityPercent };
  },
});

export type FlatLightState = 'none' | 'off' | 'not ready' | 'ready' | 'unknown' | 'error';
const FLAT_LIGHT_STATES: readonly FlatLightState[] = ['none', 'off', 'not ready', 'ready', 'unknown', 'error'];

export const flatLightClient = (device: AlpacaDevice) => ({
  device,
  state: async (): Promise<FlatLightState> => FLAT_LIGHT_STATES[await device.get<number>('calibratorstate')] ?? 'error',
  mostBrightness: () => device.get<number>('maxbrightness'),
  on: (brightness: number) => device.put('calibratoron', { Brightness: Math.round(brightness) }),
  off: () => device.put('calibratoroff'),
});

export type WheelClient = ReturnType<typeof wheelClient>;
export type FocuserClient = ReturnType<typeof focuserClient>;
export type RotatorClient = ReturnType<typeof rotatorClient>;
export type RoofClient = ReturnType<typeof roofClient>;
export type SafetyClient = ReturnType<typeof safetyClient>;
export type FlatLightClient = ReturnType<typeof flatLightClient>;
export type ConditionsClient = ReturnType<typeof conditionsClient>;
