// One device of the open HTTP device protocol: properties are read with GET, set and commanded with PUT as form fields.
// Source: the protocol's public description, version 1.
import { DeviceError, failureOf, readTwice } from './device-error.ts';
import type { Answer, Asked } from './http.ts';
import { exchange } from './http.ts';

export type DeviceKind =
  | 'telescope'
  | 'camera'
  | 'filterwheel'
  | 'focuser'
  | 'rotator'
  | 'dome'
  | 'safetymonitor'
  | 'observingconditions'
  | 'covercalibrator'
  | 'switch';

export interface DeviceAddress {
  /** "http://127.0.0.1:4311", without a path of its own. */
  readonly baseUrl: string;
  readonly kind: DeviceKind;
  readonly number: number;
}

export interface CallOptions {
  /** Told in words when a call fails. */
  readonly name: string;
  /** Longest wait for an answer, milliseconds of real time. */
  readonly timeoutMs?: number;
  /** Who calls, [1, 65535]: one number for all devices of a night. */
  readonly clientId?: number;
}

interface Envelope {
  readonly Value?: unknown;
  readonly ErrorNumber: number;
  readonly ErrorMessage: string;
}

export const DEFAULT_TIMEOUT_MS = 5000;
const FORM = { 'content-type': 'application/x-www-form-urlencoded' };
const MOST_ID = 0xffff;
const CLIENTS_PER_PROCESS = 17;

export interface AlpacaDevice {
  readonly name: string;
  /** @throws DeviceError */
  get<T>(property: string, query?: Readonly<Record<string, string | number | boolean>>): Promise<T>;
  /** @throws DeviceError */
  put(action: string, fields?: Readonly<Record<string, string | number | boolean>>): Promise<void>;
  /** The bytes of a property, for pictures. @throws DeviceError */
  bytes(property: string, accept: string): Promise<Uint8Array>;
  connect(): Promise<void>;
  isConnected(): Promise<boolean>;
}

let clients = 0;
/** A number of its own for whoever minds devices. */
export const nextClientId = (): number => ((process.pid * CLIENTS_PER_PROCESS + clients++) % MOST_ID) + 1;

export function alpacaDevice({ baseUrl, kind, number }: DeviceAddress, options: CallOptions): AlpacaDevice {
  const { name, timeoutMs = DEFAULT_TIMEOUT_MS, clientId = nextClientId() } = options;
  const root = `${baseUrl.replace(/\/$/, '')}/api/v1/${kind}/${number}`;
  let transaction = 0;
  const ids = () => ({
    ClientID: String(clientId),
    ClientTransactionID: String((transaction = (transaction % MOST_ID) + 1)),
  });

  const asked = async (path: string, how: Omit<Asked, 'signal'>): Promise<Answer> => {
    const answer = await exchange(path, { ...how, signal: AbortSignal.timeout(timeoutMs) }).catch((error: unknown) => {
      throw new DeviceError(
        name,
        'silent',
        error instanceof Error && error.name === 'TimeoutError'
          ? `no answer within ${timeoutMs / 1000} s`
          : 'it can’t be reached',
      );
    });
    if (answer.isOk) return answer;
    const words = (await answer.text().catch(() => '')).slice(0, 200);
    throw new DeviceError(name, 'garbled', `it answered ${answer.status} ${words}`.trim());
  };
  const read = (path: string, headers: Readonly<Record<string, string>> = {}): Promise<Answer> =>
    readTwice(() => asked(path, { headers }));
  const opened = async (answer: Answer): Promise<Envelope> => {
    const envelope = (await answer.json().catch(() => null)) as Envelope | null;
    if (envelope === null || typeof envelope.ErrorNumber !== 'number')
      throw new DeviceError(name, 'garbled', 'its answer is not of the protocol');
    if (envelope.ErrorNumber !== 0)
      throw new DeviceError(
        name,
        failureOf(envelope.ErrorNumber),
        envelope.ErrorMessage || `error ${envelope.ErrorNumber}`,
      );
    return envelope;
  };
  const device: AlpacaDevice = {
    name,
    async get<T>(property: string, query = {}) {
      const params = new URLSearchParams({ ...textOf(query), ...ids() });
      return (await opened(await read(`${root}/${property}?${params}`))).Value as T;
    },
    async put(action, fields = {}) {
      const body = new URLSearchParams({ ...textOf(fields), ...ids() }).toString();
      await opened(await asked(`${root}/${action}`, { method: 'PUT', body, headers: FORM }));
    },
    async bytes(property, accept) {
      return (await read(`${root}/${property}?${new URLSearchParams(ids())}`, { accept })).bytes();
    },
    connect: () => device.put('connected', { Connected: true }),
    isConnected: () => device.get<boolean>('connected'),
  };
  return device;
}

/** The protocol writes truth with a capital. */
const textOf = (fields: Readonly<Record<string, string | number | boolean>>): Record<string, string> =>
  Object.fromEntries(
    Object.entries(fields).map(([key, value]) => [
      key,
      typeof value === 'boolean' ? (value ? 'True' : 'False') : String(value),
    ]),
  );
