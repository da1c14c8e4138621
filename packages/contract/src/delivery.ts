// A project's frames handed over: under chosen names, with a list and checksums, in one archive or file by file.
import { DEFAULT_NAME_RULE, NAME_PARTS } from '@meridiem/core';
import type { Static } from 'typebox';
import { Type } from 'typebox';
import { Id, IdParams, Nullable, oneOf, UtcMs } from './common.ts';
import { VERDICTS } from './ledger.ts';
import { MEMBERS, operation } from './operation.ts';

/** Parts with commas between: "night,filter". */
const PartsText = Type.String({
  maxLength: 120,
  pattern: `^((${NAME_PARTS.join('|')})(,(${NAME_PARTS.join('|')}))*)?$`,
});

const EXPOSURE_KINDS = ['light', 'flat', 'dark', 'bias'] as const;

/** Which frames are handed over. */
export const DELIVERY_SETS = ['accepted', 'not rejected', 'all'] as const;
export type DeliverySet = (typeof DELIVERY_SETS)[number];

export const DeliveryQuery = Type.Object({
  folders: Type.Optional(PartsText),
  name: Type.Optional(PartsText),
  set: Type.Optional(oneOf(DELIVERY_SETS)),
  /** Whether the flats, darks and bias that fit the lights come with them. */
  calibration: Type.Optional(oneOf(['with', 'without'] as const)),
});
export type DeliveryQuery = Static<typeof DeliveryQuery>;

export const DEFAULT_DELIVERY = {
  folders: DEFAULT_NAME_RULE.folders.join(','),
  name: DEFAULT_NAME_RULE.name.join(','),
  set: 'not rejected',
  calibration: 'with',
} as const;

export const DeliveredFile = Type.Object({
  exposureId: Id,
  /** Path inside the archive. */
  name: Type.String(),
  sizeBytes: Type.Integer(),
  /** Hexadecimal SHA-256 of the file as it was written. */
  sha256: Type.String(),
  kind: oneOf(EXPOSURE_KINDS),
  /** Null for darks and bias. */
  filterLetter: Nullable(Type.String()),
  exposureSec: Type.Number(),
  startUtcMs: UtcMs,
  /** Null for calibration. */
  verdict: Nullable(oneOf(VERDICTS)),
});
export type DeliveredFile = Static<typeof DeliveredFile>;

export const Delivery = Type.Object({
  projectName: Type.String(),
  files: Type.Array(DeliveredFile),
  /** Exposures of the set whose file was never kept on this server. */
  withoutFile: Type.Integer(),
  /** Files that should be here and are not, or are not as they were written. */
  missing: Type.Array(Type.String()),
  archiveName: Type.String(),
  archiveBytes: Type.Integer(),
});
export type Delivery = Static<typeof Delivery>;

export const readDelivery = operation({
  method: 'GET',
  path: '/projects/:id/delivery',
  summary:
    'What a project’s owner is handed: each file with its name, size and checksum. For the owner and coordinators.',
  access: MEMBERS,
  params: IdParams,
  query: DeliveryQuery,
  response: Delivery,
});

export const deliveryArchive = operation({
  method: 'GET',
  path: '/projects/:id/delivery/archive',
  media: ['application/x-tar'],
  summary:
    'All of it in one archive, with the calibration that fits, list and checksums; a download that was cut goes on with a Range header.',
  access: MEMBERS,
  params: IdParams,
  query: DeliveryQuery,
  response: Type.Unsafe<Uint8Array>(Type.Any()),
});
