// The clients against a second, minimal implementation of the protocol, written from its public description.
import type { IncomingMessage, ServerResponse } from 'node:http';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { alpacaDevice } from './alpaca.ts';
import { cameraClient } from './camera.ts';
import { readImageBytes, writeImageBytes } from './image-bytes.ts';
import { mountClient } from './mount.ts';
import {
  conditionsClient,
  focuserClient,
  roofClient,
  rotatorClient,
  safetyClient,
  wheelClient,
} from './small-devices.ts';

/** What was asked: method, path below the version, and fields. */
const asked: string[] = [];
let state: Record<string, unknown> = {};
let reply: ((request: IncomingMessage, response: ServerResponse) => boolean) | null = null;

const server = createServer(async (request, response) => {
  const url = new URL(request.url!, 'http://device');
  let body = '';
  for await (const part of request) body += String(part);
  const fields = request.method === 'PUT' ? new URLSearchParams(body) : url.searchParams;
  const path = url.pathname.replace('/api/v1/', '');
  const own = [...fields].filter(([key]) => !/^Client/.test(key)).map(([key, value]) => `${key}=${value}`);
  asked.push([request.method, path, ...own].join(' '));
  if (reply?.(request, response)) return;
  const property = path.split('/').at(-1)!;
  const answer = { ClientTransactionID: Number(fields.get('ClientTransactionID')), ServerTransactionID: 1 };
  const known = property in state || request.method === 'PUT';
  response.setHeader('content-type', 'application/json');
  response.end(
    JSON.stringify(
      known
        ? { ...answer, Value: state[property], ErrorNumber: 0, ErrorMessage: '' }
        : { ...answer, ErrorNumber: 0x400, ErrorMessage: `${property} is not implemented` },
    ),
  );
});
let baseUrl: string;
beforeAll(async () => {
  await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
  baseUrl = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
});
afterAll(() => void server.close());

const device = (kind: Parameters<typeof alpacaDevice>[0]['kind'], timeoutMs = 1000) =>
  alpacaDevice({ baseUrl, kind, number: 0 }, { name: 'the device', timeoutMs });
const answering = (write: (response: ServerResponse) => void): void => {
  reply = (_request, response) => {
    write(response);
    return true;
  };
};
const failure = async (work: Promise<unknown>): Promise<unknown> =>
  work.then(
    () => 'none',
    (error: { failure: string }) => error.failure,
  );

describe('a call', () => {
  it('is a GET with the caller’s numbers, or a PUT with form fields and truth with a capital', async () => {
    [reply, state] = [null, { tracking: true }];
    asked.length = 0;
    expect(await device('telescope').get('tracking')).toBe(true);
    await device('telescope').put('tracking', { Tracking: false });
    expect(asked).toEqual(['GET telescope/0/tracking', 'PUT telescope/0/tracking Tracking=False']);
  });

  it.each([
    [0x400, 'not implemented'],
    [0x401, 'invalid value'],
    [0x402, 'not ready'],
    [0x407, 'not connected'],
    [0x408, 'not ready'],
    [0x40b, 'not ready'],
    [0x500, 'refused'],
    [0xfff, 'refused'],
  ])('that fails with number %d fails as "%s"', async (ErrorNumber, name) => {
    answering((response) => response.end(JSON.stringify({ ErrorNumber, ErrorMessage: 'why' })));
    expect(await failure(device('dome').put('openshutter'))).toBe(name);
  });

  it('that gets no answer, or none of the protocol, says which', async () => {
    reply = () => true;
    expect(await failure(device('dome', 80).get('shutterstatus'))).toBe('silent');
    answering((response) => response.writeHead(500).end('the driver crashed'));
    expect(await failure(device('dome').get('shutterstatus'))).toBe('garbled');
    answering((response) => response.end('<html>'));
    expect(await failure(device('dome').get('shutterstatus'))).toBe('garbled');
    // Sent elsewhere, it goes nowhere.
    answering((response) => response.writeHead(302, { location: 'http://169.254.169.254/' }).end());
    expect(await failure(device('dome').get('shutterstatus'))).toBe('garbled');
    const nowhere = alpacaDevice({ baseUrl: 'http://127.0.0.1:1', kind: 'dome', number: 0 }, { name: 'roof' });
    expect(await failure(nowhere.get('shutterstatus'))).toBe('silent');
  });
});

describe('a reading', () => {
  it('that is not answered is asked for once more; a command never is', async () => {
    state = { shutterstatus: 1 };
    let left = 1;
    reply = (request) => left-- > 0 && void request.socket.destroy() === undefined;
    expect(await device('dome').get('shutterstatus')).toBe(1);
    [left, asked.length] = [1, 0];
    expect(await failure(device('dome').put('openshutter'))).toBe('silent');
    expect(asked).toEqual(['PUT dome/0/openshutter']);
    left = 2;
    expect(await failure(device('dome').get('shutterstatus'))).toBe('silent');
  });
});

describe('each device', () => {
  it('is read and moved in the protocol’s own words', async () => {
    reply = null;
    state = {
      rightascension: 5.5, declination: -35, altitude: 60, azimuth: 20, slewing: false, tracking: true, atpark: false,
      sideofpier: 1, equatorialsystem: 1, sitelatitude: -30, sitelongitude: 20, utcdate: '2026-12-08T20:30:00.5Z',
      position: -1, names: ['L', 'R'], ismoving: true, maxstep: 60000, mechanicalposition: 12.5, shutterstatus: 3,
      issafe: false, cloudcover: 40, windspeed: 3.5, camerastate: 2, imageready: false, cameraxsize: 4000,
      cameraysize: 3000, lastexposurestarttime: '2026-12-08T20:30:00.000', lastexposureduration: 60,
    }; // prettier-ignore
    const mount = mountClient(device('telescope'));
    expect(await mount.state()).toMatchObject({ raDeg: 82.5, decDeg: -35, pierSide: 'west', isParked: false });
    expect([await mount.system(), await mount.site()]).toEqual(['of date', { latitudeDeg: -30, longitudeDeg: 20 }]);
    expect(await mount.clockUtcMs()).toBe(Date.parse('2026-12-08T20:30:00.5Z'));
    expect(await wheelClient(device('filterwheel')).place()).toBeNull();
    // Its thermometer is not implemented: known as none.
    expect(await focuserClient(device('focuser')).temperatureC()).toBeNull();
    expect(await rotatorClient(device('rotator')).mechanicalDeg()).toBe(12.5);
    expect(await roofClient(device('dome')).state()).toBe('closing');
    expect(await safetyClient(device('safetymonitor')).isSafe()).toBe(false);
    expect(await conditionsClient(device('observingconditions')).read()).toEqual({
      cloudCoverPercent: 40, windMPerSec: 3.5, temperatureC: null, humidityPercent: null,
    }); // prettier-ignore
    const camera = cameraClient(device('camera'));
    expect([await camera.activity(), await camera.isImageReady()]).toEqual(['exposing', false]);
    expect(await camera.lastStartUtcMs()).toBe(Date.parse('2026-12-08T20:30:00Z'));
    asked.length = 0;
    await camera.set({ gain: 100, offset: 30, binning: 2, region: { widthPx: 2000, heightPx: 1000 } });
    await mount.beginSlew({ raDeg: 90, decDeg: -10 });
    await rotatorClient(device('rotator')).beginMove(-10);
    expect(asked.filter((line) => line.startsWith('PUT')).map((line) => line.split('/0/')[1])).toEqual([
      'gain Gain=100', 'offset Offset=30', 'binx BinX=2', 'biny BinY=2', 'startx StartX=500', 'starty StartY=500',
      'numx NumX=1000', 'numy NumY=500', 'slewtocoordinatesasync RightAscension=6 Declination=-10', 'movemechanical Position=350',
    ]); // prettier-ignore
  });
});

describe('a picture', () => {
  const header = (words: readonly number[]): DataView => {
    const view = new DataView(new ArrayBuffer(44 + 64));
    words.forEach((word, i) => view.setInt32(4 * i, word, true));
    return view;
  };
  const read = (view: DataView) => readImageBytes('camera', new Uint8Array(view.buffer));

  it('written and read again is the same, rows and columns in their places', () => {
    const picture = { widthPx: 3, heightPx: 2, pixels: Uint16Array.from([1, 2, 3, 4, 5, 65_535]) };
    expect(readImageBytes('camera', writeImageBytes(picture))).toEqual(picture);
  });
  it.each([
    ['32-bit', 2, (view: DataView, at: number, value: number) => view.setInt32(44 + 4 * at, value, true)],
    ['signed 16-bit', 1, (view: DataView, at: number, value: number) => view.setInt16(44 + 2 * at, value, true)],
    ['8-bit', 6, (view: DataView, at: number, value: number) => view.setUint8(44 + at, value)],
  ])('of %s numbers is read column by column', (_, sent, write) => {
    const view = header([1, 0, 0, 0, 44, 2, sent, 2, 2, 3, 0]);
    [10, 11, 12, 20, 21, 22].forEach((value, i) => write(view, i, value));
    expect([...read(view).pixels]).toEqual([10, 20, 11, 21, 12, 22]);
  });
  it('that is cut off, in colour planes or an error is refused by name', async () => {
    for (const words of [
      [2, 0, 0, 0, 44, 2, 8, 2, 2, 2, 0],
      [1, 0, 0, 0, 44, 2, 8, 3, 2, 2, 3],
      [1, 0, 0, 0, 44, 2, 3, 2, 2, 2, 0],
      [1, 0, 0, 0, 44, 2, 8, 2, 500, 500, 0],
    ])
      expect(() => read(header(words))).toThrow(expect.objectContaining({ failure: 'garbled' }));
    expect(() => readImageBytes('camera', new Uint8Array(10))).toThrow('cut off');
    expect(() => read(header([1, 0x40b, 0, 0, 44, 0, 0, 0, 0, 0, 0]))).toThrow(
      expect.objectContaining({ failure: 'refused' }),
    );
  });
});
