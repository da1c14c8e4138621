// Calls that have been done, by the id that their caller gave them.
import type { Queries } from './connection.ts';

export interface Call {
  readonly personId: string;
  readonly callId: string;
  /** Which transaction of the call. */
  readonly part: number;
  readonly operation: string;
}

/** Marks a call as done by this transaction; waits for another that is doing it.
 * @returns false where it has been done already */
export async function claimCall(queries: Queries, { personId, callId, part, operation }: Call): Promise<boolean> {
  const claimed = await queries.one(
    'INSERT INTO done_calls (person_id, call_id, part, operation) VALUES ($1, $2, $3, $4) ON CONFLICT DO NOTHING RETURNING call_id',
    [personId, callId, part, operation],
  );
  return claimed !== null;
}

export const keepResult = ({ models }: Queries, { personId, callId, part }: Call, sealed: string): Promise<unknown> =>
  models.DoneCall.update({ result: { sealed } as object }, { where: { personId, callId, part } });

export async function doneCall(
  { models }: Queries,
  { personId, callId, part }: Call,
): Promise<{ operation: string; sealed: string }> {
  const done = (await models.DoneCall.findOne({ where: { personId, callId, part } }))!;
  return { operation: done.operation, sealed: (done.result as { sealed: string }).sealed };
}
