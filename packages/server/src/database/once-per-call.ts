// A call that carries an id is done once: repeated after a cut connection, its transactions give what they gave before.
import { ServiceError } from '../errors.ts';
import { requestScope } from '../plugins/request-scope.ts';
import type { Database, Queries } from './connection.ts';
import { isInTransaction } from './connection.ts';
import type { Call } from './done-calls-repository.ts';
import { claimCall, doneCall, keepResult } from './done-calls-repository.ts';
import type { Seal } from './sealed.ts';

/** The same database, whose transactions within a call that has an id run once; the one that repeats it waits for the
 * first and gets its result, which is kept sealed: it may hold a secret. */
export function oncePerCall(database: Database, seal: Seal): Database {
  return {
    ...database,
    transaction: <T>(work: (queries: Queries) => Promise<T>): Promise<T> => {
      const scope = requestScope();
      if (!scope?.callId || !scope.personId || isInTransaction()) return database.transaction(work);
      const { personId, callId, operation } = scope;
      const part = scope.transactions++;
      return database.transaction((queries) => doOnce(queries, seal, { personId, callId, part, operation }, work));
    },
  };
}

async function doOnce<T>(queries: Queries, seal: Seal, call: Call, work: (queries: Queries) => Promise<T>): Promise<T> {
  if (await claimCall(queries, call)) {
    const value = await work(queries);
    await keepResult(queries, call, seal.close(value));
    return value;
  }
  const { operation, sealed } = await doneCall(queries, call);
  if (operation !== call.operation)
    throw new ServiceError('INPUT_INVALID', 'This id was given to another call', { field: 'x-call-id' });
  return seal.open(sealed) as T;
}
