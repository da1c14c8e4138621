// A call that carries an id is done once: repeated after a cut connection, its transactions give what they gave before.
import { ServiceError } from '../errors.ts';
import { requestScope } from '../plugins/request-scope.ts';
import type { Database, Queries } from './connection.ts';
import { isInTransaction } from './connection.ts';

/** The same database, whose transactions within a call that has an id run once; the one that repeats it waits for the
 * first and gets its result. */
export function oncePerCall(database: Database): Database {
  return {
    ...database,
    transaction: <T>(work: (queries: Queries) => Promise<T>): Promise<T> => {
      const scope = requestScope();
      if (!scope?.callId || !scope.personId || isInTransaction()) return database.transaction(work);
      const { personId, callId, operation } = scope;
      const part = scope.transactions++;
      return database.transaction((queries) => doOnce(queries, { personId, callId, part, operation }, work));
    },
  };
}

interface Call {
  readonly personId: string;
  readonly callId: string;
  readonly part: number;
  readonly operation: string;
}

async function doOnce<T>(queries: Queries, call: Call, work: (queries: Queries) => Promise<T>): Promise<T> {
  const { DoneCall } = queries.models;
  const { personId, callId, part, operation } = call;
  const where = { personId, callId, part };
  const [begun] = await DoneCall.bulkCreate([call], { ignoreDuplicates: true, returning: ['at'] });
  if (!begun?.at) {
    const done = await DoneCall.findOne({ where });
    if (done?.operation !== operation)
      throw new ServiceError('INPUT_INVALID', 'This id was given to another call', { field: 'x-call-id' });
    return (done.result as { value: T }).value;
  }
  const value = await work(queries);
  await DoneCall.update({ result: { value } as object }, { where });
  return value;
}
