// What PostgreSQL refuses because of what was sent, as an answer in words; its own failures stay failures.
import { BaseError, ConnectionError, TimeoutError } from 'sequelize';
import { ServiceError } from '../errors.ts';

/** The database can't be reached, or has no connection free: its driver's words are no answer for people.
 * Classes 08, 53 and 57P: PostgreSQL, appendix A. */
function isAway(error: Error & { parent?: { code?: string } }): boolean {
  if (error instanceof ConnectionError || error instanceof TimeoutError) return true;
  return (
    /^(08|53|57P)|^E[A-Z]+$/.test(error.parent?.code ?? '') ||
    /Connection terminated|not queryable|Query read timeout/.test(error.message)
  );
}

/** Null where the database failed rather than refused. Codes: PostgreSQL, appendix A. */
export function refusalOf(error: unknown): ServiceError | null {
  if (!(error instanceof BaseError)) return null;
  if (isAway(error))
    return new ServiceError(
      'NOT_READY',
      'The database does not answer at the moment; nothing was changed, try again soon',
    );
  switch ((error as { parent?: { code?: string } }).parent?.code) {
    case '22003':
      return new ServiceError('VALUE_REFUSED', 'A number in it is too large, or too near to nothing, to be kept');
    case '22008':
      return new ServiceError('VALUE_REFUSED', 'A time in it lies too far from now to be kept');
    case '23503':
      return new ServiceError('CONFLICT', 'Something that it belongs to has been removed since');
    case '23505':
      return new ServiceError('CONFLICT', 'There is one like it already');
    case '23514':
      return new ServiceError('VALUE_REFUSED', 'A value in it is none that can be');
    case '40001':
    case '40P01':
    case '55P03':
      return new ServiceError(
        'BUSY',
        'Another person is changing the same thing right now; nothing was changed here, try again',
      );
    case '57014':
      return new ServiceError('NOT_READY', 'This took longer than it may; ask for less at once, or try again later');
    default:
      return null;
  }
}
