// The one error a service throws; its code decides the HTTP status.
import type { ErrorCode } from '@meridiem/contract';
import { ERROR_STATUS } from '@meridiem/contract';

export interface ErrorDetails {
  readonly field?: string;
  readonly details?: Record<string, unknown>;
}

export class ServiceError extends Error {
  override readonly name = 'ServiceError';
  readonly code: ErrorCode;
  readonly field: string | undefined;
  readonly details: Record<string, unknown> | undefined;

  constructor(code: ErrorCode, message: string, { field, details }: ErrorDetails = {}) {
    super(message);
    this.code = code;
    this.field = field;
    this.details = details;
  }

  get status(): number {
    return ERROR_STATUS[this.code];
  }
}

export const notFound = (what: string): ServiceError => new ServiceError('NOT_FOUND', `There is no such ${what}`);
export const notAllowed = (words: string): ServiceError => new ServiceError('NOT_ALLOWED', words);
export const refused = (field: string, message: string): ServiceError =>
  new ServiceError('VALUE_REFUSED', message, { field });
