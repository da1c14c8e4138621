// Every error code an answer can carry, with its HTTP status. Retired codes are never reused.

export const ERROR_STATUS = {
  INPUT_INVALID: 400,
  SIGN_IN_NEEDED: 401,
  SIGN_IN_WRONG: 401,
  NOT_ALLOWED: 403,
  CROSS_SITE: 403,
  NOT_FOUND: 404,
  CONFLICT: 409,
  NOT_POSSIBLE: 409,
  NOTHING_TO_UNDO: 409,
  LEASE_LOST: 409,
  BUSY: 409,
  TOO_LARGE: 413,
  WRONG_HOST: 421,
  VALUE_REFUSED: 422,
  TOO_MANY_TRIES: 429,
  FAULT: 500,
  NOT_READY: 503,
} as const;

export type ErrorCode = keyof typeof ERROR_STATUS;
