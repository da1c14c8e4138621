// Recorded conversations, device by device: what is asked and what a device answers, as the protocol's public description has
// them; properties, errors by their numbers, and moves that are begun and looked at until they are over.
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { DeviceKind } from './alpaca.ts';
import { alpacaDevice } from './alpaca.ts';
import { cameraClient } from './camera.ts';
import { mountClient } from './mount.ts';
import {
  conditionsClient,
  flatLightClient,
  focuserClient,
  roofClient,
  rotatorClient,
  safetyClient,
  wheelClient,
} from './small-devices.ts';

/** "GET atpark": what is asked, below the device; fields of a PUT after it. Then the value, or an error by its number. */
type Exchange = readonly [asked: string, answer: unknown];
const refusal = (number: number, words: string) => ({ error: number, words });
type Refusal = ReturnType<typeof refusal>;

let conversation: Exchange[] = [];
let unforeseen: string[] = [];
const server = createServer(async (request, response) => {
  const url = new URL(request.url!, 'http://device');
  let body = '';
  for await (const part of request) body += String(part);
  const fields = request.method === 'PUT' ? new URLSearchParams(body) : url.searchParams;
  const own = [...fields].filter(([key]) => !/^Client/.test(key)).map(([key, value]) => `${key}=${value}`);
  const line = [request.method, url.pathname.split('/').at(-1), ...own].join(' ');
  const at = conversation.findIndex(([asked]) => asked === line);
  if (at < 0) unforeseen.push(line);
  const answer = at < 0 ? refusal(0x400, 'not foreseen') : conversation.splice(at, 1)[0][1];
  const { error = 0, words = '' } = (answer as Partial<Refusal> | null) ?? {};
  response.setHeader('content-type', 'application/json');
  response.end(
    JSON.stringify({
      ...(error === 0 && request.method === 'GET' ? { Value: answer } : {}),
      ClientTransactionID: Number(fields.get('ClientTransactionID')),
      ServerTransactionID: 321,
      ErrorNumber: error,
      ErrorMessage: words,
    }),
  );
});
let baseUrl: string;
beforeAll(async () => {
  await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
  baseUrl = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
});
afterAll(() => void server.close());

const of = (kind: DeviceKind) => alpacaDevice({ baseUrl, kind, number: 0 }, { name: kind, timeoutMs: 2000 });

interface Case {
  readonly what: string;
  readonly said: readonly Exchange[];
  readonly does: () => Promise<unknown>;
  readonly comes: unknown;
}

const [mount, camera, wheel, focuser] = [
  () => mountClient(of('telescope')),
  () => cameraClient(of('camera')),
  () => wheelClient(of('filterwheel')),
  () => focuserClient(of('focuser')),
];
const [rotator, roof, safety, conditions, flatLight] = [
  () => rotatorClient(of('rotator')),
  () => roofClient(of('dome')),
  () => safetyClient(of('safetymonitor')),
  () => conditionsClient(of('observingconditions')),
  () => flatLightClient(of('covercalibrator')),
];
/** Looks until it is over. @returns what each look saw */
async function looked<T>(look: () => Promise<T>, isOver: (seen: T) => boolean): Promise<T[]> {
  const seen: T[] = [];
  do seen.push(await look());
  while (!isOver(seen.at(-1)!));
  return seen;
}
const pointing: readonly Exchange[] = [
  ['GET rightascension', 5.5756],
  ['GET declination', -5.39],
  ['GET altitude', 61.2],
  ['GET azimuth', 12.4],
  ['GET atpark', false],
];

const CASES: Readonly<Record<string, readonly Case[]>> = {
  'every device': [
    { what: 'is connected', said: [['PUT connected Connected=True', null], ['GET connected', true]], does: async () => { await of('dome').connect(); return of('dome').isConnected(); }, comes: true }, // prettier-ignore
    { what: 'that is not connected says so', said: [['GET issafe', refusal(0x407, 'Not connected')]], does: () => safety().isSafe(), comes: 'not connected' }, // prettier-ignore
    { what: 'fails by a number of its own', said: [['PUT openshutter', refusal(0x501, 'Limit switch')]], does: () => roof().beginOpen(), comes: 'refused' }, // prettier-ignore
  ],
  mount: [
    {
      what: 'tells its coordinates',
      said: [['GET equatorialsystem', 1]],
      does: () => mount().system(),
      comes: 'of date',
    },
    { what: 'in J2000', said: [['GET equatorialsystem', 2]], does: () => mount().system(), comes: 'J2000' },
    { what: 'in none that is known', said: [['GET equatorialsystem', 0]], does: () => mount().system(), comes: 'unknown' }, // prettier-ignore
    { what: 'tells its site', said: [['GET sitelatitude', -31.2], ['GET sitelongitude', 138.1]], does: () => mount().site(), comes: { latitudeDeg: -31.2, longitudeDeg: 138.1 } }, // prettier-ignore
    { what: 'tells its time', said: [['GET utcdate', '2026-11-30T12:00:00.5Z']], does: () => mount().clockUtcMs(), comes: Date.UTC(2026, 10, 30, 12, 0, 0, 500) }, // prettier-ignore
    { what: 'tells no time', said: [['GET utcdate', 'noon']], does: () => mount().clockUtcMs(), comes: 'garbled' },
    { what: 'tells how it stands', said: [...pointing, ['GET slewing', false], ['GET tracking', true], ['GET sideofpier', 1]], does: () => mount().state(), comes: { raDeg: 83.634, decDeg: -5.39, altitudeDeg: 61.2, azimuthDeg: 12.4, isSlewing: false, isTracking: true, isParked: false, pierSide: 'west' } }, // prettier-ignore
    { what: 'without a pier side', said: [...pointing, ['GET slewing', false], ['GET tracking', false], ['GET sideofpier', -1]], does: async () => (await mount().state()).pierSide, comes: 'unknown' }, // prettier-ignore
    { what: 'slews, looked at until it is there', said: [['PUT slewtocoordinatesasync RightAscension=5 Declination=-5', null], ...[true, true, false].flatMap((slewing): Exchange[] => [...pointing, ['GET slewing', slewing], ['GET tracking', true], ['GET sideofpier', 0]])], does: async () => { await mount().beginSlew({ raDeg: 75, decDeg: -5 }); return looked(async () => (await mount().state()).isSlewing, (is) => !is); }, comes: [true, true, false] }, // prettier-ignore
    { what: 'points where a light hangs, without tracking', said: [['PUT tracking Tracking=False', null], ['PUT slewtoaltazasync Azimuth=90 Altitude=20', null]], does: async () => { await mount().setTracking(false); await mount().beginSlewToDirection({ altitudeDeg: 20, azimuthDeg: 90 }); }, comes: undefined }, // prettier-ignore
    { what: 'that is parked does not slew', said: [['PUT slewtocoordinatesasync RightAscension=5 Declination=-5', refusal(0x408, 'Parked')]], does: () => mount().beginSlew({ raDeg: 75, decDeg: -5 }), comes: 'not ready' }, // prettier-ignore
    { what: 'below its own limit refuses the place', said: [['PUT slewtocoordinatesasync RightAscension=5 Declination=-89', refusal(0x401, 'Below the horizon')]], does: () => mount().beginSlew({ raDeg: 75, decDeg: -89 }), comes: 'invalid value' }, // prettier-ignore
    { what: 'is told where it is', said: [['PUT synctocoordinates RightAscension=6 Declination=1.5', null]], does: () => mount().sync({ raDeg: 90, decDeg: 1.5 }), comes: undefined }, // prettier-ignore
    { what: 'parks, unparks, stops', said: [['PUT park', null], ['PUT unpark', null], ['PUT abortslew', null]], does: async () => { await mount().park(); await mount().unpark(); await mount().abort(); }, comes: undefined }, // prettier-ignore
    { what: 'finds its home', said: [['GET canfindhome', true], ['PUT findhome', null], ['GET athome', false], ['GET athome', true]], does: async () => { await mount().canFindHome(); await mount().findHome(); return looked(() => mount().isAtHome(), (is) => is); }, comes: [false, true] }, // prettier-ignore
    { what: 'of another age knows no home', said: [['GET canfindhome', refusal(0x400, 'Not implemented')]], does: () => mount().canFindHome(), comes: false }, // prettier-ignore
  ],
  camera: [
    { what: 'cools to a temperature', said: [['PUT setccdtemperature SetCCDTemperature=-10', null], ['PUT cooleron CoolerOn=True', null], ['GET ccdtemperature', -9.7], ['GET coolerpower', 61]], does: async () => { await camera().setCooling(true, -10); return [await camera().temperatureC(), await camera().coolerPowerPercent()]; }, comes: [-9.7, 61] }, // prettier-ignore
    { what: 'warms up', said: [['PUT cooleron CoolerOn=False', null]], does: () => camera().setCooling(false), comes: undefined }, // prettier-ignore
    { what: 'that can’t be so cold refuses it', said: [['PUT setccdtemperature SetCCDTemperature=-99', refusal(0x401, 'Out of range')]], does: () => camera().setCooling(true, -99), comes: 'invalid value' }, // prettier-ignore
    { what: 'reads a middle, binned, without an offset of its own', said: [['PUT gain Gain=75', null], ['PUT offset Offset=10', refusal(0x400, 'No offset')], ['PUT binx BinX=2', null], ['PUT biny BinY=2', null], ['GET cameraxsize', 1600], ['GET cameraysize', 1200], ['PUT startx StartX=200', null], ['PUT starty StartY=150', null], ['PUT numx NumX=400', null], ['PUT numy NumY=300', null]], does: () => camera().set({ gain: 75, offset: 10, binning: 2, region: { widthPx: 800, heightPx: 600 } }), comes: undefined }, // prettier-ignore
    { what: 'exposes, looked at until the picture is there', said: [['PUT startexposure Duration=30 Light=True', null], ['GET camerastate', 2], ['GET imageready', false], ['GET imageready', true], ['GET lastexposurestarttime', '2026-11-30T12:00:01.25'], ['GET lastexposureduration', 30.01]], does: async () => { await camera().beginExposure(30, true); const during = await camera().activity(); const ready = await looked(() => camera().isImageReady(), (is) => is); return [during, ready, await camera().lastStartUtcMs(), await camera().lastExposureSec()]; }, comes: ['exposing', [false, true], Date.UTC(2026, 10, 30, 12, 0, 1, 250), 30.01] }, // prettier-ignore
    { what: 'whose clock writes its zone', said: [['GET lastexposurestarttime', '2026-11-30T12:00:01Z']], does: () => camera().lastStartUtcMs(), comes: Date.UTC(2026, 10, 30, 12, 0, 1) }, // prettier-ignore
    { what: 'that has taken nothing yet says so', said: [['GET lastexposurestarttime', refusal(0x40b, 'No exposure')]], does: () => camera().lastStartUtcMs(), comes: 'not ready' }, // prettier-ignore
    { what: 'in trouble, or in a state of another age', said: [['GET camerastate', 5], ['GET camerastate', 9]], does: async () => [await camera().activity(), await camera().activity()], comes: ['error', 'error'] }, // prettier-ignore
    { what: 'stops', said: [['PUT abortexposure', null]], does: () => camera().abort(), comes: undefined },
  ],
  'filter wheel': [
    { what: 'names its filters', said: [['GET names', ['L', 'R', 'OIII']]], does: () => wheel().names(), comes: ['L', 'R', 'OIII'] }, // prettier-ignore
    { what: 'turns, nowhere while it does', said: [['PUT position Position=2', null], ['GET position', -1], ['GET position', -1], ['GET position', 2]], does: async () => { await wheel().beginMove(2); return looked(() => wheel().place(), (place) => place === 2); }, comes: [null, null, 2] }, // prettier-ignore
    { what: 'has no such place', said: [['PUT position Position=12', refusal(0x401, 'Position')]], does: () => wheel().beginMove(12), comes: 'invalid value' }, // prettier-ignore
  ],
  focuser: [
    { what: 'moves to whole steps', said: [['GET position', 20_000], ['GET maxstep', 50_000], ['PUT move Position=20301', null], ['GET ismoving', true], ['GET ismoving', false]], does: async () => { const at = [await focuser().positionSteps(), await focuser().mostSteps()]; await focuser().beginMove(20_300.6); return [...at, await looked(() => focuser().isMoving(), (is) => !is)]; }, comes: [20_000, 50_000, [true, false]] }, // prettier-ignore
    { what: 'has a thermometer, or none', said: [['GET temperature', 4.5], ['GET temperature', refusal(0x400, 'None')]], does: async () => [await focuser().temperatureC(), await focuser().temperatureC()], comes: [4.5, null] }, // prettier-ignore
    { what: 'without an absolute place says so', said: [['GET position', refusal(0x400, 'Relative')], ['PUT halt', null]], does: async () => { await focuser().halt(); return focuser().positionSteps(); }, comes: 'not implemented' }, // prettier-ignore
  ],
  rotator: [
    { what: 'turns by its own circle', said: [['GET mechanicalposition', 350.5], ['PUT movemechanical Position=10.5', null], ['GET ismoving', true], ['GET ismoving', false]], does: async () => { await rotator().beginMove((await rotator().mechanicalDeg()) + 20); return looked(() => rotator().isMoving(), (is) => !is); }, comes: [true, false] }, // prettier-ignore
    { what: 'turns back over its zero', said: [['PUT movemechanical Position=355', null], ['PUT halt', null]], does: async () => { await rotator().beginMove(-5); await rotator().halt(); }, comes: undefined }, // prettier-ignore
  ],
  roof: [
    { what: 'opens and closes, looked at until it has', said: [['PUT openshutter', null], ['GET shutterstatus', 2], ['GET shutterstatus', 0], ['PUT closeshutter', null], ['GET shutterstatus', 3], ['GET shutterstatus', 1]], does: async () => { await roof().beginOpen(); const opened = await looked(() => roof().state(), (is) => is === 'open'); await roof().beginClose(); return [opened, await looked(() => roof().state(), (is) => is === 'closed')]; }, comes: [['opening', 'open'], ['closing', 'closed']] }, // prettier-ignore
    { what: 'in trouble, or in a state of another age', said: [['GET shutterstatus', 4], ['GET shutterstatus', 7]], does: async () => [await roof().state(), await roof().state()], comes: ['error', 'error'] }, // prettier-ignore
    { what: 'over a telescope that is not parked stays', said: [['PUT closeshutter', refusal(0x40b, 'Telescope not parked')]], does: () => roof().beginClose(), comes: 'not ready' }, // prettier-ignore
  ],
  safety: [
    { what: 'is safe, and is not', said: [['GET issafe', true], ['GET issafe', false]], does: async () => [await safety().isSafe(), await safety().isSafe()], comes: [true, false] }, // prettier-ignore
  ],
  'flat light': [
    { what: 'is switched on as bright as asked, and off', said: [['GET maxbrightness', 255], ['PUT calibratoron Brightness=64', null], ['GET calibratorstate', 2], ['GET calibratorstate', 3], ['PUT calibratoroff', null], ['GET calibratorstate', 1]], does: async () => { const most = await flatLight().mostBrightness(); await flatLight().on(most / 4); const on = [await flatLight().state(), await flatLight().state()]; await flatLight().off(); return [...on, await flatLight().state()]; }, comes: ['not ready', 'ready', 'off'] }, // prettier-ignore
    { what: 'that has none, or is of another age', said: [['GET calibratorstate', 0], ['GET calibratorstate', 9], ['PUT calibratoron Brightness=1', refusal(0x400, 'None')]], does: async () => { const states = [await flatLight().state(), await flatLight().state()]; return flatLight().on(1).catch((error: { failure: string }) => [...states, error.failure]); }, comes: ['none', 'error', 'not implemented'] }, // prettier-ignore
  ],
  conditions: [
    { what: 'measures what it has', said: [['GET cloudcover', refusal(0x400, 'None')], ['GET windspeed', 4.2], ['GET temperature', 9], ['GET humidity', 55]], does: () => conditions().read(), comes: { cloudCoverPercent: null, windMPerSec: 4.2, temperatureC: 9, humidityPercent: 55 } }, // prettier-ignore
    { what: 'that has not measured yet has nothing', said: ['cloudcover', 'windspeed', 'temperature', 'humidity'].map((name): Exchange => [`GET ${name}`, refusal(0x402, 'No reading yet')]), does: () => conditions().read(), comes: { cloudCoverPercent: null, windMPerSec: null, temperatureC: null, humidityPercent: null } }, // prettier-ignore
  ],
};

describe.each(Object.keys(CASES))('%s', (name) => {
  it.each(CASES[name].map((one) => [one.what, one] as const))('%s', async (_, { said, does, comes }) => {
    conversation = [...said];
    unforeseen = [];
    const came = await does().catch((error: { failure?: string }) => error.failure ?? error);
    const close = (value: unknown): unknown => (typeof value === 'number' ? Math.round(value * 1e6) / 1e6 : value);
    const rounded = (value: unknown): unknown =>
      value !== null && typeof value === 'object' && !Array.isArray(value)
        ? Object.fromEntries(Object.entries(value).map(([key, one]) => [key, close(one)]))
        : value;
    expect(rounded(came)).toEqual(comes);
    expect([unforeseen, conversation]).toEqual([[], []]);
  });
});
