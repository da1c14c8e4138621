// The devices of a simulated rig as the open protocol names them: every property that is read, every action that is taken.
import type { SimulatedRig } from './rig.ts';
import { MOST_FLAT_BRIGHTNESS, MOST_FOCUS_STEPS } from './rig.ts';
import { MountRefusal } from './mount.ts';
import { RoofRefusal } from './roof.ts';
import { CameraRefusal } from './camera.ts';

export type Fields = Readonly<Record<string, string>>;
type Reader = (rig: SimulatedRig, query: Fields) => unknown;
type Action = (rig: SimulatedRig, fields: Fields) => void;

export interface DeviceModel {
  readonly name: string;
  readonly read: Readonly<Record<string, Reader>>;
  readonly act: Readonly<Record<string, Action>>;
}

/** The protocol's own numbers for what a device refuses. */
export class ProtocolError extends Error {
  readonly errorNumber: number;
  constructor(errorNumber: number, words: string) {
    super(words);
    this.errorNumber = errorNumber;
  }
}
const [NOT_IMPLEMENTED, INVALID, NOT_CONNECTED, PARKED, NOT_NOW, DRIVER] = [0x400, 0x401, 0x407, 0x408, 0x40b, 0x500];

export function asProtocolError(error: unknown): ProtocolError {
  if (error instanceof ProtocolError) return error;
  if (error instanceof MountRefusal) return new ProtocolError(PARKED, error.message);
  if (error instanceof RoofRefusal || error instanceof CameraRefusal) return new ProtocolError(NOT_NOW, error.message);
  return new ProtocolError(DRIVER, error instanceof Error ? error.message : 'the driver failed');
}
export const notImplemented = (property: string): ProtocolError =>
  new ProtocolError(NOT_IMPLEMENTED, `${property} is not implemented here`);

export const notConnected = (): ProtocolError => new ProtocolError(NOT_CONNECTED, 'it is not connected');

/** @throws ProtocolError where the field is missing or no number in range */
function number(fields: Fields, name: string, from = Number.NEGATIVE_INFINITY, to = Number.POSITIVE_INFINITY): number {
  const value = Number(fields[name] ?? Number.NaN);
  if (!(value >= from && value <= to)) throw new ProtocolError(INVALID, `${name} ${fields[name] ?? 'is missing'}`);
  return value;
}
const truth = (fields: Fields, name: string): boolean => {
  if (!/^(true|false)$/i.test(fields[name] ?? '')) throw new ProtocolError(INVALID, `${name} must be True or False`);
  return /^true$/i.test(fields[name]);
};
const DEG_PER_HOUR = 15;

const telescope: DeviceModel = {
  name: 'Simulated mount',
  read: {
    rightascension: (rig) => rig.mount.reportedOfDate(rig.now).raDeg / DEG_PER_HOUR,
    declination: (rig) => rig.mount.reportedOfDate(rig.now).decDeg,
    altitude: (rig) => rig.mount.direction(rig.now).altitudeDeg,
    azimuth: (rig) => rig.mount.direction(rig.now).azimuthDeg,
    slewing: (rig) => rig.mount.isSlewing(rig.now),
    tracking: (rig) => rig.mount.isTracking(rig.now),
    atpark: (rig) => (rig.mount.isSlewing(rig.now), rig.mount.isParked),
    sideofpier: (rig) => (rig.mount.pierSide === 'east' ? 0 : 1),
    equatorialsystem: () => 1,
    sitelatitude: (rig) => rig.facts.site.latitudeDeg,
    sitelongitude: (rig) => rig.facts.site.longitudeDeg,
    utcdate: (rig) => new Date(rig.now).toISOString(),
    canpark: () => true,
    canfindhome: () => true,
    athome: (rig) => rig.mount.isAtHome(rig.now),
    canslewasync: () => true,
  },
  act: {
    tracking: (rig, fields) => rig.mount.setTracking(truth(fields, 'Tracking'), rig.now),
    slewtocoordinatesasync: (rig, fields) => rig.mount.slew(placeIn(fields), rig.now),
    slewtoaltazasync: (rig, fields) =>
      rig.mount.slewToDirection(
        { altitudeDeg: number(fields, 'Altitude', 0, 90), azimuthDeg: number(fields, 'Azimuth', 0, 360) },
        rig.now,
      ),
    synctocoordinates: (rig, fields) => rig.mount.sync(placeIn(fields), rig.now),
    abortslew: (rig) => rig.mount.abort(rig.now),
    park: (rig) => {
      rig.truth.note(rig.now, 'the mount is asked to park');
      rig.mount.park(rig.now);
    },
    unpark: (rig) => rig.mount.unpark(rig.now),
    findhome: (rig) => {
      rig.truth.note(rig.now, 'the mount is asked to find home');
      rig.mount.findHome(rig.now);
    },
  },
};
const placeIn = (fields: Fields) => ({
  raDeg: DEG_PER_HOUR * number(fields, 'RightAscension', 0, 24),
  decDeg: number(fields, 'Declination', -90, 90),
});

const CAMERA_STATES = { idle: 0, exposing: 2, reading: 3 } as const;
const camera: DeviceModel = {
  name: 'Simulated camera',
  read: {
    cameraxsize: (rig) => rig.facts.widthPx,
    cameraysize: (rig) => rig.facts.heightPx,
    pixelsizex: (rig) => rig.facts.pixelUm,
    pixelsizey: (rig) => rig.facts.pixelUm,
    ccdtemperature: (rig) => rig.camera.temperatureC(rig.now, rig.weather().temperatureC),
    coolerpower: (rig) => rig.camera.coolerPowerPercent(rig.now, rig.weather().temperatureC),
    cooleron: (rig) => rig.camera.isCooling,
    camerastate: (rig) => CAMERA_STATES[rig.camera.activity(rig.now)],
    imageready: (rig) => rig.camera.isReady(rig.now),
    gain: (rig) => rig.camera.gain,
    offset: (rig) => rig.camera.offset,
    binx: (rig) => rig.camera.binning,
    biny: (rig) => rig.camera.binning,
    numx: (rig) => rig.camera.numX,
    numy: (rig) => rig.camera.numY,
    startx: (rig) => rig.camera.startX,
    starty: (rig) => rig.camera.startY,
    lastexposurestarttime: (rig) => new Date(lastOf(rig).startUtcMs).toISOString().slice(0, -1),
    lastexposureduration: (rig) => lastOf(rig).exposureSec,
  },
  act: {
    setccdtemperature: (rig, fields) =>
      rig.camera.cool({ targetC: number(fields, 'SetCCDTemperature', -80, 40) }, rig.now, rig.weather().temperatureC),
    cooleron: (rig, fields) =>
      rig.camera.cool({ isOn: truth(fields, 'CoolerOn') }, rig.now, rig.weather().temperatureC),
    gain: (rig, fields) => void (rig.camera.gain = number(fields, 'Gain', 0, 10_000)),
    offset: (rig, fields) => void (rig.camera.offset = number(fields, 'Offset', 0, 10_000)),
    binx: (rig, fields) => void (rig.camera.binning = number(fields, 'BinX', 1, 4)),
    biny: (rig, fields) => void (rig.camera.binning = number(fields, 'BinY', 1, 4)),
    startx: (rig, fields) => void (rig.camera.startX = number(fields, 'StartX', 0)),
    starty: (rig, fields) => void (rig.camera.startY = number(fields, 'StartY', 0)),
    numx: (rig, fields) => void (rig.camera.numX = number(fields, 'NumX', 1, rig.facts.widthPx)),
    numy: (rig, fields) => void (rig.camera.numY = number(fields, 'NumY', 1, rig.facts.heightPx)),
    startexposure: (rig, fields) => rig.beginExposure(number(fields, 'Duration', 0, 7200), truth(fields, 'Light')),
    abortexposure: (rig) => {
      rig.truth.note(rig.now, 'the exposure is asked to stop');
      rig.camera.abort();
    },
  },
};
function lastOf(rig: SimulatedRig) {
  const last = rig.camera.last();
  if (!last) throw new ProtocolError(NOT_NOW, 'nothing has been exposed yet');
  return last;
}

const filterwheel: DeviceModel = {
  name: 'Simulated filter wheel',
  read: {
    names: (rig) => rig.facts.filters.map(({ name }) => name),
    focusoffsets: (rig) => rig.facts.filters.map(({ focusOffsetSteps }) => focusOffsetSteps),
    position: (rig) => (rig.wheel.isMoving(rig.now) ? -1 : rig.wheel.at(rig.now)),
  },
  act: {
    position: (rig, fields) => {
      const place = number(fields, 'Position', 0, rig.facts.filters.length - 1);
      if (rig.faults.has('wheel jam', rig.now)) throw new ProtocolError(DRIVER, 'the wheel does not turn');
      rig.wheel.move(place, rig.now);
    },
  },
};
const focuser: DeviceModel = {
  name: 'Simulated focuser',
  read: {
    position: (rig) => Math.round(rig.focuser.at(rig.now)),
    ismoving: (rig) => rig.focuser.isMoving(rig.now),
    maxstep: () => MOST_FOCUS_STEPS,
    absolute: () => true,
    temperature: (rig) => rig.weather().temperatureC,
  },
  act: {
    move: (rig, fields) => {
      const to = number(fields, 'Position', 0, MOST_FOCUS_STEPS);
      if (!rig.faults.has('focuser stuck', rig.now)) rig.focuser.move(to, rig.now);
    },
    halt: (rig) => rig.focuser.halt(rig.now),
  },
};
const rotator: DeviceModel = {
  name: 'Simulated rotator',
  read: {
    mechanicalposition: (rig) => rig.rotator.at(rig.now),
    position: (rig) => rig.positionAngleDeg,
    ismoving: (rig) => rig.rotator.isMoving(rig.now),
  },
  act: {
    movemechanical: (rig, fields) => {
      const to = number(fields, 'Position', 0, 360);
      if (!rig.facts.hasRotator) throw notImplemented('movemechanical');
      if (!rig.faults.has('rotator stuck', rig.now)) rig.rotator.move(to, rig.now);
    },
    halt: (rig) => rig.rotator.halt(rig.now),
  },
};
const SHUTTER = { open: 0, closed: 1, opening: 2, closing: 3, error: 4 } as const;
const moveRoof = (rig: SimulatedRig, direction: -1 | 1): void => {
  rig.truth.note(rig.now, direction > 0 ? 'the roof is asked to open' : 'the roof is asked to close');
  rig.roof.move(direction, rig.now, { isClear: rig.isRoofClear, isStuck: rig.faults.has('roof stuck', rig.now) });
};
const dome: DeviceModel = {
  name: 'Simulated roof',
  read: { shutterstatus: (rig) => SHUTTER[rig.roof.state(rig.now)], cansetshutter: () => true, slewing: () => false },
  act: {
    openshutter: (rig) => moveRoof(rig, 1),
    closeshutter: (rig) => moveRoof(rig, -1),
    abortslew: (rig) => rig.roof.halt(rig.now),
  },
};
const safetymonitor: DeviceModel = { name: 'Simulated safety monitor', read: { issafe: (rig) => rig.isSafe }, act: {} };
const observingconditions: DeviceModel = {
  name: 'Simulated weather station',
  read: {
    cloudcover: (rig) => 100 * rig.weather().cloudShare,
    windspeed: (rig) => rig.weather().windMPerSec,
    temperature: (rig) => rig.weather().temperatureC,
    humidity: (rig) => rig.weather().humidityPercent,
  },
  act: {},
};

const CALIBRATOR = { off: 1, ready: 3 } as const;
const covercalibrator: DeviceModel = {
  name: 'Simulated flat light',
  read: {
    coverstate: () => 0,
    calibratorstate: (rig) => (rig.flatBrightness > 0 ? CALIBRATOR.ready : CALIBRATOR.off),
    brightness: (rig) => rig.flatBrightness,
    maxbrightness: () => MOST_FLAT_BRIGHTNESS,
  },
  act: {
    calibratoron: (rig, fields) => void (rig.flatBrightness = number(fields, 'Brightness', 0, MOST_FLAT_BRIGHTNESS)),
    calibratoroff: (rig) => void (rig.flatBrightness = 0),
  },
};

export const DEVICES: Readonly<Record<string, DeviceModel>> = {
  telescope,
  camera,
  filterwheel,
  focuser,
  rotator,
  dome,
  safetymonitor,
  observingconditions,
  covercalibrator,
};
