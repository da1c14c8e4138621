// Calls to the server that survive its absence: each is repeated until it is answered, and each may be repeated safely.
import type { AnyOperation, BodyOf, ErrorBody, ResponseOf } from '@meridiem/contract';

export interface ServerLink {
  /** Repeated until it is answered. @throws RefusedCall */
  call<O extends AnyOperation>(operation: O, id: string | null, body: BodyOf<O>): Promise<ResponseOf<O>>;
  /** Asked once, for what can be done without. */
  once<O extends AnyOperation>(operation: O, id: string | null, body: BodyOf<O>): Promise<ResponseOf<O>>;
}

/** A refusal by the server: repeating the call would not help. */
export class RefusedCall extends Error {
  readonly code: string;
  constructor({ code, message }: ErrorBody) {
    super(message);
    this.code = code;
  }
}

export interface LinkOptions {
  readonly baseUrl: string;
  readonly key: string;
  readonly sleep: (ms: number) => Promise<void>;
  /** Told once per silence. */
  readonly onSilent: (words: string) => void;
}

/** planning a night again takes a few seconds. */
const LONGEST_ANSWER_MS = 15_000;
const FIRST_PAUSE_MS = 200;
const LONGEST_PAUSE_MS = 3000;

export function serverLink({ baseUrl, key, sleep, onSilent }: LinkOptions): ServerLink {
  async function once<O extends AnyOperation>(
    operation: O,
    id: string | null,
    body: BodyOf<O>,
  ): Promise<ResponseOf<O>> {
    const answer = await fetch(`${baseUrl}/api${operation.path.replace(':id', id ?? '')}`, {
      method: operation.method,
      headers: { 'content-type': 'application/json', authorization: `Bearer ${key}` },
      body: JSON.stringify(body),
      signal: AbortSignal.timeout(LONGEST_ANSWER_MS),
    });
    if (answer.ok) return (await answer.json()) as ResponseOf<O>;
    const error = (await answer.json().catch(() => ({ code: 'FAULT', message: answer.statusText }))) as ErrorBody;
    const passes = answer.status >= 500 || error.code === 'BUSY' || error.code === 'TOO_MANY_TRIES';
    if (!passes) throw new RefusedCall(error);
    throw new Error(error.message);
  }

  return {
    once,
    async call(operation, id, body) {
      for (let pauseMs = FIRST_PAUSE_MS, silent = false; ; pauseMs = Math.min(LONGEST_PAUSE_MS, pauseMs * 2)) {
        try {
          return await once(operation, id, body);
        } catch (error) {
          if (error instanceof RefusedCall) throw error;
          if (!silent) onSilent(`the server does not answer (${String(error)}); trying again`);
          silent = true;
          await sleep(pauseMs);
        }
      }
    },
  };
}
