// One HTTP operation as a value: the server registers it, the web calls it, the tests walk it, OpenAPI is written from it.
import type { Static, TSchema } from 'typebox';
import { Type } from 'typebox';
import { closed } from './closed.ts';

export const ROLES = ['guest', 'member', 'helper', 'coordinator'] as const;
export type Role = (typeof ROLES)[number];

/** Who may call: anybody, signed-in people by role, or the runner process with its key. */
export type Access = 'public' | 'runner' | readonly Role[];

/** Everyone with an account. */
export const EVERYONE: readonly Role[] = ROLES;
/** Those who own or decide. */
export const MEMBERS: readonly Role[] = ['member', 'helper', 'coordinator'];
/** Those with hands on the equipment. */
export const HANDS: readonly Role[] = ['helper', 'coordinator'];
export const COORDINATORS: readonly Role[] = ['coordinator'];

export interface Operation<P extends TSchema, Q extends TSchema, B extends TSchema, R extends TSchema> {
  readonly method: 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE';
  /** Path with `:params`, below /api. */
  readonly path: string;
  readonly summary: string;
  readonly access: Access;
  /** Media types of the answer; JSON where left out. */
  readonly media?: readonly string[];
  /** Answers that take real work are rationed by person. */
  readonly isDear?: boolean;
  readonly params: P;
  readonly query: Q;
  readonly body: B;
  readonly response: R;
}

export type AnyOperation = Operation<TSchema, TSchema, TSchema, TSchema>;
export type ParamsOf<O extends AnyOperation> = Static<O['params']>;
export type QueryOf<O extends AnyOperation> = Static<O['query']>;
export type BodyOf<O extends AnyOperation> = Static<O['body']>;
export type ResponseOf<O extends AnyOperation> = Static<O['response']>;

const None = Type.Object({}, { additionalProperties: false });
type None = typeof None;

/** Fills the parts an operation leaves out with empty objects, and closes what is sent: a key that no schema names is refused. */
export function operation<
  P extends TSchema = None,
  Q extends TSchema = None,
  B extends TSchema = None,
  R extends TSchema = None,
>(
  parts: Pick<Operation<P, Q, B, R>, 'method' | 'path' | 'summary' | 'access' | 'isDear' | 'media'> & {
    params?: P;
    query?: Q;
    body?: B;
    response?: R;
  },
): Operation<P, Q, B, R> {
  const { params = None as unknown as P, query = None as unknown as Q, body = None as unknown as B } = parts;
  return {
    response: None as unknown as R,
    ...parts,
    params: closed(params),
    query: closed(query),
    body: closed(body),
  };
}
