// Every code with which the core refuses a value, and the one class that carries it.

export const CORE_ERROR_CODES = [
  'COORDINATE_UNREADABLE',
  'COORDINATE_OUT_OF_RANGE',
  'LIMIT_UNREADABLE',
  'LIMIT_OUT_OF_RANGE',
  'HORIZON_UNREADABLE',
  'NIGHT_DATE_INVALID',
  'TIME_ZONE_UNKNOWN',
  'INTERVAL_EMPTY',
  'EXPOSURE_OUT_OF_RANGE',
  'QUANTITY_UNREADABLE',
  'PROBLEM_INVALID',
  'ARCHIVE_UNWRITABLE',
  'FITS_UNREADABLE',
  'CALIBRATION_UNUSABLE',
  'TABLE_UNREADABLE',
  'ORBIT_UNREADABLE',
  'FRAMING_UNREADABLE',
] as const;

export type CoreErrorCode = (typeof CORE_ERROR_CODES)[number];

/** A broken promise towards the core: a value it can't work with, named by a stable code. */
export class CoreError extends Error {
  override readonly name = 'CoreError';
  readonly code: CoreErrorCode;
  readonly details: Readonly<Record<string, unknown>>;

  constructor(code: CoreErrorCode, message: string, details: Readonly<Record<string, unknown>> = {}) {
    super(message);
    this.code = code;
    this.details = details;
  }
}
