// One exchange over HTTP with a device, or with what stands in for one. A night makes tens of thousands: connections are kept,
// and nothing is done that such an exchange does not need.
import type { Dispatcher } from 'undici';
import { request } from 'undici';

export interface Asked {
  readonly method?: Dispatcher.HttpMethod;
  readonly headers?: Readonly<Record<string, string>>;
  readonly body?: string | Uint8Array;
  /** Ends the exchange, the reading of its answer too. */
  readonly signal: AbortSignal;
}

export interface Answer {
  readonly status: number;
  readonly isOk: boolean;
  /** One of them must be called: an answer that is not read holds its connection. */
  json(): Promise<unknown>;
  text(): Promise<string>;
  bytes(): Promise<Uint8Array>;
}

/** A redirect is followed nowhere: it is an answer that is not ok. @throws when nothing answers */
export async function exchange(address: string, { method = 'GET', headers, body, signal }: Asked): Promise<Answer> {
  const { statusCode, body: answer } = await request(address, { method, headers, body, signal });
  return {
    status: statusCode,
    isOk: statusCode >= 200 && statusCode < 300,
    json: () => answer.json(),
    text: () => answer.text(),
    bytes: async () => new Uint8Array(await answer.arrayBuffer()),
  };
}

/** The same with JSON as what is sent. */
export const exchangeJson = (
  address: string,
  method: 'PUT' | 'POST',
  body: object,
  signal: AbortSignal,
): Promise<Answer> =>
  exchange(address, { method, headers: { 'content-type': 'application/json' }, body: JSON.stringify(body), signal });
