// A second, minimal observatory of the open HTTP device protocol, written from the protocol's public description and sharing no
// code with the simulated one: a bare HTTP server, another equatorial system, pictures in 32 bits, and much that is left out.
import type { IncomingMessage, ServerResponse } from 'node:http';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import type { Answers } from './held-clock.ts';

export interface PlainSite {
  readonly latitudeDeg: number;
  readonly longitudeDeg: number;
}
export const PLAIN_FAULTS = ['unsafe', 'mount stuck', 'roof stuck', 'wheel jammed', 'focuser stuck', 'camera silent', 'star lost', 'unsolved', 'errors', 'line cut'] as const; // prettier-ignore
export type PlainFault = (typeof PLAIN_FAULTS)[number];

const [NOT_IMPLEMENTED, NOT_NOW, NOT_CONNECTED] = [0x400, 0x40b, 0x407];
const [WIDTH, HEIGHT] = [240, 180];
/** Safety is read every 5 s at the latest, and its answer acted on within 2 s. */
const KNOWN_WITHIN_SEC = 7;
const MOVE_MS = 6000;
const ROOF_MS = 20_000;
const BEST_FOCUS = 20_000;
const PARK = { altitude: 0, azimuth: 90 };
/** Far enough from each other to be seen apart out of focus. */
const STARS = Array.from({ length: 42 }, (_, i) => ({ x: 18 + 34 * (i % 7), y: 15 + 30 * Math.floor(i / 7), light: 20_000 + 700 * i })); // prettier-ignore

class Refusal extends Error {
  readonly number: number;
  constructor(number: number, words: string) {
    super(words);
    this.number = number;
  }
}
type Fields = URLSearchParams;

/** @param now the observatory's own time, milliseconds UTC
 * @param also answers what is asked of others at the same address */
export async function plainObservatory(now: () => number, site: PlainSite, also: Answers = () => false) {
  const brokenUntil = new Map<PlainFault, number>();
  let unsafeMs = 0;
  const faults = { has: (fault: PlainFault): boolean => now() < (brokenUntil.get(fault) ?? 0) };
  const wrong: string[] = [];
  const commands: string[] = [];
  const connected = new Set<string>();
  const minders = new Set<string>();
  // What moves is where it was going once its time has come.
  let roof = { at: 'closed', to: 'closed', doneMs: 0 };
  let mount = { ra: 0, dec: 0, isParked: true, isParking: false, isTracking: false, doneMs: 0 };
  /** Where it really points beside where it says, degrees. */
  let error = { ra: 0.2, dec: -0.15 };
  let focus = { at: 20_300, doneMs: 0 };
  let wheel = { at: 0, doneMs: 0 };
  let exposure: { startMs: number; sec: number } | null = null;
  const camera = { isCooling: false, targetC: 20, gain: 0, bin: 1 };
  let guiding: 'stopped' | 'guiding' = 'stopped';

  const roofState = (): string => {
    if (now() < roof.doneMs) return roof.to === 'open' ? 'opening' : 'closing';
    return roof.to;
  };
  const isSlewing = (): boolean => now() < mount.doneMs;
  const isAtPark = (): boolean => {
    if (mount.isParking && !isSlewing() && !faults.has('mount stuck')) mount = { ...mount, isParking: false, isParked: true, isTracking: false }; // prettier-ignore
    return mount.isParked;
  };
  const moveRoof = (to: 'open' | 'closed'): void => {
    if (!isAtPark()) wrong.push(`the roof was told to be ${to} over a telescope that is not parked`);
    if (faults.has('roof stuck')) return;
    roof = { at: roofState(), to, doneMs: roofState() === to ? 0 : now() + ROOF_MS };
  };
  const needsUnparked = (): void => {
    if (isAtPark()) throw new Refusal(0x408, 'parked');
  };
  const slew = (fields: Fields): void => {
    needsUnparked();
    if (roofState() !== 'open') wrong.push('slewed under a roof that is not open');
    if (faults.has('mount stuck')) return;
    mount = { ...mount, ra: number(fields, 'RightAscension'), dec: number(fields, 'Declination'), isTracking: true, doneMs: now() + MOVE_MS }; // prettier-ignore
  };
  const begin = (fields: Fields): void => {
    if (exposure && now() < exposure.startMs + 1000 * exposure.sec) throw new Refusal(NOT_NOW, 'exposing');
    if (faults.has('unsafe') && now() - unsafeMs > 1000 * KNOWN_WITHIN_SEC) wrong.push('light was begun in danger');
    exposure = { startMs: now(), sec: number(fields, 'Duration') };
  };
  const isReady = (): boolean => exposure !== null && now() >= exposure.startMs + 1000 * exposure.sec + 500;
  const missing = (): never => {
    throw new Refusal(NOT_IMPLEMENTED, 'this device does not have it');
  };

  const devices: Record<string, Record<string, (fields: Fields, isPut: boolean) => unknown>> = {
    telescope: {
      rightascension: () => mount.ra,
      declination: () => mount.dec,
      altitude: () => (isAtPark() ? PARK.altitude : 60),
      azimuth: () => (isAtPark() ? PARK.azimuth : 10),
      slewing: isSlewing,
      tracking: (fields, isPut) => (isPut ? ((mount.isTracking = isTrue(fields, 'Tracking')), null) : mount.isTracking),
      atpark: isAtPark,
      sideofpier: () => -1,
      equatorialsystem: () => 2,
      sitelatitude: () => site.latitudeDeg,
      sitelongitude: () => site.longitudeDeg,
      utcdate: () => new Date(now()).toISOString().replace(/\.\d+Z$/, 'Z'),
      slewtocoordinatesasync: slew,
      synctocoordinates(fields) {
        // It was told the truth: what it says now is where it points, but for a little.
        const truth = { ra: mount.ra + error.ra / 15, dec: mount.dec + error.dec };
        mount = { ...mount, ra: number(fields, 'RightAscension'), dec: number(fields, 'Declination') };
        error = { ra: 15 * (truth.ra - mount.ra), dec: truth.dec - mount.dec };
      },
      abortslew: () => void (mount.doneMs = 0),
      park: () => void (mount = { ...mount, isParking: true, doneMs: faults.has('mount stuck') ? 0 : now() + MOVE_MS }),
      unpark: () => void (mount = { ...mount, isParked: false, isParking: false }),
    },
    camera: {
      cameraxsize: () => WIDTH,
      cameraysize: () => HEIGHT,
      ccdtemperature: () => (camera.isCooling ? camera.targetC : 20),
      setccdtemperature: (fields) => void (camera.targetC = number(fields, 'SetCCDTemperature')),
      cooleron: (fields) => void (camera.isCooling = isTrue(fields, 'CoolerOn')),
      camerastate: () => (exposure && !isReady() ? 2 : 0),
      imageready: isReady,
      gain: (fields) => void (camera.gain = number(fields, 'Gain')),
      binx: (fields) => void (camera.bin = number(fields, 'BinX')),
      ...Object.fromEntries(['biny', 'startx', 'starty', 'numx', 'numy'].map((name) => [name, () => undefined])),
      startexposure: begin,
      abortexposure: () => void (exposure = null),
      lastexposurestarttime: () => new Date(exposure!.startMs).toISOString().slice(0, 19),
      lastexposureduration: () => exposure!.sec,
    },
    filterwheel: {
      names: () => ['L', 'R'],
      position: (fields, isPut) => {
        if (isPut) return void (wheel = { at: number(fields, 'Position'), doneMs: now() + 2000 });
        return now() < wheel.doneMs || faults.has('wheel jammed') ? -1 : wheel.at;
      },
    },
    focuser: {
      position: () => focus.at,
      ismoving: () => now() < focus.doneMs,
      move(fields) {
        const at = number(fields, 'Position');
        if (!faults.has('focuser stuck')) focus = { at, doneMs: now() + 1500 };
      },
    },
    dome: {
      shutterstatus: () => ['open', 'closed', 'opening', 'closing'].indexOf(roofState()),
      openshutter: () => moveRoof('open'),
      closeshutter: () => moveRoof('closed'),
    },
    safetymonitor: { issafe: () => !faults.has('unsafe') },
    observingconditions: { temperature: () => 7 },
  };
  const read = (kind: string, property: string, fields: Fields, isPut: boolean): unknown => {
    if (property === 'connected') return isPut ? void connected.add(kind) : connected.has(kind);
    if (!connected.has(kind)) throw new Refusal(NOT_CONNECTED, 'not connected');
    if (isPut) {
      commands.push(`${kind} ${property}`);
      minders.add(fields.get('ClientID') ?? '');
    }
    return (devices[kind][property] ?? missing)(fields, isPut) ?? null;
  };

  const answer = async (request: IncomingMessage, response: ServerResponse): Promise<void> => {
    const url = new URL(request.url!, 'http://plain');
    const chunks: Buffer[] = [];
    for await (const part of request) chunks.push(part as Buffer);
    if (also(request, response, Buffer.concat(chunks))) return;
    if (faults.has('line cut')) return void request.socket.destroy();
    const say = (body: object, status = 200): void =>
      void response.writeHead(status, { 'content-type': 'application/json' }).end(JSON.stringify(body));
    if (url.pathname.startsWith('/guider')) {
      if (faults.has('star lost')) {
        guiding = 'stopped';
        return request.method === 'PUT' ? say({ words: 'no star' }, 422) : say({ state: 'lost', rmsArcsec: null });
      }
      if (request.method === 'PUT') guiding = url.pathname.endsWith('stop') ? 'stopped' : 'guiding';
      return say({ state: guiding, rmsArcsec: guiding === 'guiding' ? 0.8 : null });
    }
    if (url.pathname === '/solve') {
      if (faults.has('unsolved')) return say({ words: 'no stars' }, 422);
      // The mount speaks J2000, and so does whoever solves: hours to degrees.
      return say({ raDeg: 15 * mount.ra + error.ra, decDeg: mount.dec + error.dec, positionAngleDeg: 220 });
    }
    const [, kind, , property] = /^\/api\/v1\/(\w+)\/(\d+)\/(\w+)$/.exec(url.pathname) ?? [];
    if (!kind) return say({}, 404);
    if (faults.has('camera silent') && kind === 'camera') return void request.socket.destroy();
    if (property === 'imagearray') return void response.end(picture(isReady() ? focus.at : null));
    const isPut = request.method === 'PUT';
    const fields = isPut ? new URLSearchParams(Buffer.concat(chunks).toString()) : url.searchParams;
    try {
      if (faults.has('errors')) throw new Refusal(0x500, 'out of order');
      say({ Value: read(kind, property, fields, isPut), ErrorNumber: 0, ErrorMessage: '' });
    } catch (thrown) {
      const refusal = thrown as Refusal;
      say({ ErrorNumber: refusal.number ?? 0x500, ErrorMessage: refusal.message });
    }
  };
  const server = createServer((request, response) => void answer(request, response));
  await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
  return {
    baseUrl: `http://127.0.0.1:${(server.address() as AddressInfo).port}`,
    breakDown(fault: PlainFault, forSec: number): void {
      brokenUntil.set(fault, now() + 1000 * forSec);
      if (fault === 'unsafe') unsafeMs = now();
    },
    /** What must never happen, as this observatory saw it. */
    wrong,
    commands,
    minders,
    roof: roofState,
    focusSteps: () => focus.at,
    isParked: isAtPark,
    close: (): Promise<unknown> => {
      server.closeAllConnections();
      return new Promise((done) => server.close(done));
    },
  };
}
export type PlainObservatory = Awaited<ReturnType<typeof plainObservatory>>;

const number = (fields: Fields, name: string): number => {
  const value = Number(fields.get(name) ?? Number.NaN);
  if (Number.isNaN(value)) throw new Refusal(0x401, `${name} is missing`);
  return value;
};
const isTrue = (fields: Fields, name: string): boolean => fields.get(name) === 'True';

/** Stars that are discs out of focus, sent as 32-bit numbers column by column. @param focusSteps null: there is no picture */
function picture(focusSteps: number | null): Buffer {
  if (focusSteps === null) {
    const words = Buffer.from('no picture');
    const refused = Buffer.alloc(44 + words.length);
    [1, NOT_NOW, 0, 0, 44].forEach((value, i) => refused.writeInt32LE(value, 4 * i));
    words.copy(refused, 44);
    return refused;
  }
  const sigma = Math.hypot(1.1, 0.0025 * (focusSteps - BEST_FOCUS));
  const bytes = Buffer.alloc(44 + 4 * WIDTH * HEIGHT);
  [1, 0, 0, 0, 44, 2, 2, 2, WIDTH, HEIGHT, 0].forEach((value, i) => bytes.writeInt32LE(value, 4 * i));
  let noise = 1;
  for (let x = 0, at = 44; x < WIDTH; x++)
    for (let y = 0; y < HEIGHT; y++, at += 4) {
      noise = (noise * 48_271) % 2_147_483_647;
      let value = 1000 + 30 * (noise / 2_147_483_647 - 0.5);
      for (const star of STARS) {
        const square = (x - star.x) ** 2 + (y - star.y) ** 2;
        if (square < 36 * sigma * sigma) value += (star.light / (2 * Math.PI * sigma * sigma)) * Math.exp(-square / (2 * sigma * sigma)); // prettier-ignore
      }
      bytes.writeInt32LE(Math.max(0, Math.min(65_535, Math.round(value))), at);
    }
  return bytes;
}
