// Calls to the server, typed by the contract; every failure is one error with the server's words.
import type { AnyOperation, BodyOf, ErrorBody, ParamsOf, QueryOf, ResponseOf } from '@meridiem/contract';
import { namedOnly, undoLast } from '@meridiem/contract';
import pRetry from 'p-retry';
import { v4 as newId } from 'uuid';
import { underWay } from './under-way.ts';

const REPEATS = { retries: 2, minTimeout: 300, maxTimeout: 1500 };

export class ApiError extends Error {
  readonly code: string;
  readonly field: string | undefined;
  readonly details: Record<string, unknown> | undefined;
  constructor({ code, message, field, details }: ErrorBody) {
    super(message);
    this.code = code;
    this.field = field;
    this.details = details;
  }
}

interface Parts<O extends AnyOperation> {
  readonly params?: ParamsOf<O>;
  readonly query?: QueryOf<O>;
  readonly body?: BodyOf<O>;
  readonly signal?: AbortSignal;
}

export async function call<O extends AnyOperation>(
  operation: O,
  { params, query, body, signal }: Parts<O> = {},
): Promise<ResponseOf<O>> {
  const path = operation.path.replace(/:(\w+)/g, (_, name: string) =>
    encodeURIComponent(String((params as Record<string, unknown>)[name])),
  );
  const search = new URLSearchParams(
    Object.entries((query ?? {}) as Record<string, unknown>).flatMap(([key, value]) =>
      value === undefined || value === null ? [] : [[key, String(value)]],
    ),
  );
  const isWriting = operation.method !== 'GET';
  const request = (): Promise<Response> =>
    fetch(`/api${path}${search.size > 0 ? `?${search}` : ''}`, {
      method: operation.method,
      headers: {
        ...(body === undefined ? {} : { 'content-type': 'application/json' }),
        ...(isWriting ? { 'x-call-id': callId } : {}),
      },
      body: body === undefined ? undefined : JSON.stringify(namedOnly(operation.body, body)),
      signal,
    }).catch(offline);
  // With its id a call is done once, however often its connection is cut.
  const callId = newId();
  const isUndo = operation.path === undoLast.path;
  const answer = await (isWriting ? counted(pRetry(request, { ...REPEATS, signal }), isUndo) : request());
  if (answer.ok) return (await answer.json()) as ResponseOf<O>;
  const fallback: ErrorBody = { code: 'FAULT', message: `The server answered ${answer.status}` };
  throw new ApiError((await answer.json().catch(() => fallback)) as ErrorBody);
}

/** An undo waits for the saves; it is none of them. */
const counted = <T>(save: Promise<T>, isUndo: boolean): Promise<T> => (isUndo ? save : underWay(save));

function offline(error: unknown): never {
  if (error instanceof DOMException && error.name === 'AbortError') throw error;
  throw new ApiError({
    code: 'OFFLINE',
    message: 'The server can’t be reached; nothing is lost, try again when it is back',
  });
}

/** A failure in words for a person. */
export const wordsOf = (error: unknown): string => (error instanceof Error ? error.message : 'Something failed');
