// The mount: slews in its own equatorial system, tracks, parks, and says where it really points.
import type { AlpacaDevice } from './alpaca.ts';
import { utcMsOf } from './device-error.ts';

/** Numbers that the protocol gives equatorial systems. */
const SYSTEMS = { 1: 'of date', 2: 'J2000' } as const;
export type MountSystem = (typeof SYSTEMS)[keyof typeof SYSTEMS] | 'unknown';
export type PierSide = 'east' | 'west' | 'unknown';

export interface MountState {
  readonly raDeg: number;
  readonly decDeg: number;
  readonly altitudeDeg: number;
  readonly azimuthDeg: number;
  readonly isSlewing: boolean;
  readonly isTracking: boolean;
  readonly isParked: boolean;
  readonly pierSide: PierSide;
}

const DEG_PER_HOUR = 15;

export const mountClient = (device: AlpacaDevice) => ({
  device,
  system: async (): Promise<MountSystem> =>
    SYSTEMS[(await device.get<number>('equatorialsystem')) as 1 | 2] ?? 'unknown',
  site: async (): Promise<{ latitudeDeg: number; longitudeDeg: number }> => ({
    latitudeDeg: await device.get<number>('sitelatitude'),
    longitudeDeg: await device.get<number>('sitelongitude'),
  }),
  clockUtcMs: async (): Promise<number> => utcMsOf(device.name, await device.get<unknown>('utcdate')),
  state: async (): Promise<MountState> => {
    const [ra, decDeg, altitudeDeg, azimuthDeg, isSlewing, isTracking, isParked, side] = await Promise.all([
      device.get<number>('rightascension'),
      device.get<number>('declination'),
      device.get<number>('altitude'),
      device.get<number>('azimuth'),
      device.get<boolean>('slewing'),
      device.get<boolean>('tracking'),
      device.get<boolean>('atpark'),
      device.get<number>('sideofpier'),
    ]);
    const pierSide = side === 0 ? 'east' : side === 1 ? 'west' : 'unknown';
    return { raDeg: ra * DEG_PER_HOUR, decDeg, altitudeDeg, azimuthDeg, isSlewing, isTracking, isParked, pierSide };
  },
  setTracking: (isOn: boolean) => device.put('tracking', { Tracking: isOn }),
  beginSlew: ({ raDeg, decDeg }: { raDeg: number; decDeg: number }) =>
    device.put('slewtocoordinatesasync', { RightAscension: raDeg / DEG_PER_HOUR, Declination: decDeg }),
  /** As it stands over the site, without tracking. */
  beginSlewToDirection: ({ altitudeDeg, azimuthDeg }: { altitudeDeg: number; azimuthDeg: number }) =>
    device.put('slewtoaltazasync', { Azimuth: azimuthDeg, Altitude: altitudeDeg }),
  sync: ({ raDeg, decDeg }: { raDeg: number; decDeg: number }) =>
    device.put('synctocoordinates', { RightAscension: raDeg / DEG_PER_HOUR, Declination: decDeg }),
  abort: () => device.put('abortslew'),
  park: () => device.put('park'),
  unpark: () => device.put('unpark'),
  canFindHome: () => device.get<boolean>('canfindhome').catch(() => false),
  findHome: () => device.put('findhome'),
  isAtHome: () => device.get<boolean>('athome'),
});
export type MountClient = ReturnType<typeof mountClient>;
