// What PostgreSQL refuses because of what was sent, as an answer in words; its own failures stay failures.
import { BaseError } from 'sequelize';
import { ServiceError } from '../errors.ts';

/** Null where the database failed rather than refused. Codes: PostgreSQL, appendix A. */
export function refusalOf(error: unknown): ServiceError | null {
  if (!(error instanceof BaseError)) return null;
  switch ((error as { parent?: { code?: string } }).parent?.code) {
    case '22003':
      return new ServiceError('VALUE_REFUSED', 'A number in it is too large, or too near to nothing, to be kept');
    case '22008':
      return new ServiceError('VALUE_REFUSED', 'A time in it lies too far from now to be kept');
    case '23503':
      return new ServiceError('CONFLICT', 'Something that it belongs to has been removed meanwhile');
    case '23505':
      return new ServiceError('CONFLICT', 'There is one like it already');
    case '23514':
      return new ServiceError('VALUE_REFUSED', 'A value in it is none that can be');
    case '40001':
    case '40P01':
      return new ServiceError(
        'CONFLICT',
        'Somebody changed the same at the same moment; nothing was changed here, try again',
      );
    default:
      return null;
  }
}
