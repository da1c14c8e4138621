// What can go wrong between a caller and a device, by name.

export type DeviceFailure =
  /** No answer within its time, or no connection. */
  | 'silent'
  /** It answered with something that is no answer of the protocol. */
  | 'garbled'
  | 'not implemented'
  | 'invalid value'
  | 'not connected'
  /** The device will not do this in its present state: parked, a filter wheel between places, a roof over an open tube. */
  | 'not ready'
  /** Any other error that the device names. */
  | 'refused';

export class DeviceError extends Error {
  readonly failure: DeviceFailure;
  /** As on the Observatory page: "mount", "camera". */
  readonly device: string;
  constructor(device: string, failure: DeviceFailure, words: string) {
    super(`${device}: ${words}`);
    this.failure = failure;
    this.device = device;
  }
}

/** Numbers that the protocol gives its errors. */
const FAILURES: Readonly<Record<number, DeviceFailure>> = {
  0x400: 'not implemented',
  0x401: 'invalid value',
  0x402: 'not ready',
  0x407: 'not connected',
  0x408: 'not ready',
  0x409: 'not ready',
  0x40b: 'not ready',
};

export const failureOf = (errorNumber: number): DeviceFailure => FAILURES[errorNumber] ?? 'refused';

/** A moment as devices write it: with its zone, or in UTC without one. @throws DeviceError where it is none */
export function utcMsOf(device: string, text: unknown): number {
  const utcMs = typeof text === 'string' ? Date.parse(text.endsWith('Z') ? text : `${text}Z`) : Number.NaN;
  if (Number.isNaN(utcMs)) throw new DeviceError(device, 'garbled', `its time is "${String(text)}"`);
  return utcMs;
}

/** Reading changes nothing: a reading that is not answered is asked for once more before it counts as silence. */
export async function readTwice<T>(read: () => Promise<T>): Promise<T> {
  try {
    return await read();
  } catch (error) {
    if (error instanceof DeviceError && error.failure === 'silent') return read();
    throw error;
  }
}
