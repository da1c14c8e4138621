import type { Static } from 'typebox';
import { Type } from 'typebox';
import { Id, IdParams, Nullable, Ok, oneOf, UtcMs, Words } from './common.ts';
import { JobShown } from './jobs.ts';
import { COORDINATORS, MEMBERS, operation } from './operation.ts';

export const MAX_FILES_A_CALL = 500;
export const MAX_FILES_AN_IMPORT = 50_000;

const Place = Type.Object({
  raDeg: Type.Number({ minimum: 0, exclusiveMaximum: 360 }),
  decDeg: Type.Number({ minimum: -90, maximum: 90 }),
});
const Name = Nullable(Type.String({ maxLength: 300 }));

/** What a header says: see `FrameFacts` of the core. */
const Facts = Type.Object({
  kind: oneOf(['light', 'flat', 'dark', 'bias'] as const),
  objectName: Name,
  centre: Nullable(Place),
  positionAngleDeg: Nullable(Type.Number({ minimum: 0, maximum: 360 })),
  scaleArcsecPerPx: Nullable(Type.Number()),
  isMirrored: Nullable(Type.Boolean()),
  startUtcMs: Nullable(Type.Number({ minimum: -2e12, maximum: 8e12 })),
  startStepMs: Nullable(Type.Number({ minimum: 0 })),
  exposureSec: Nullable(Type.Number({ minimum: 0, maximum: 86_400 })),
  filterName: Name,
  gain: Nullable(Type.Integer({ minimum: 0, maximum: 100_000 })),
  offset: Nullable(Type.Number()),
  binning: Nullable(Type.Integer({ minimum: 1, maximum: 16 })),
  sensorC: Nullable(Type.Number({ minimum: -150, maximum: 100 })),
  cameraName: Name,
  telescopeName: Name,
  observerName: Name,
  sequence: Nullable(Type.Number()),
  widthPx: Type.Integer({ minimum: 0 }),
  heightPx: Type.Integer({ minimum: 0 }),
  isTruncated: Type.Boolean(),
  isSimulated: Type.Boolean(),
  /** Why it is no single exposure. */
  combined: Nullable(Type.String({ maxLength: 500 })),
  site: Nullable(
    Type.Object({
      latitudeDeg: Type.Number({ minimum: -90, maximum: 90 }),
      longitudeDeg: Type.Number({ minimum: -180, maximum: 180 }),
    }),
  ),
  dataStart: Type.Integer({ minimum: 0 }),
  dataLength: Type.Integer({ minimum: 0 }),
  doubts: Type.Array(Type.String({ maxLength: 500 }), { maxItems: 50 }),
});

const Sha256 = Type.String({ pattern: '^[0-9a-f]{64}$' });

export const ImportedFile = Type.Object({
  name: Words(300),
  sizeBytes: Type.Integer({ minimum: 0 }),
  facts: Nullable(Facts),
  /** Why it can't be read, where it can't. */
  refused: Nullable(Type.String({ maxLength: 500 })),
  /** Of the data unit; may follow later. */
  dataSha256: Nullable(Sha256),
  /** Of the pixels, however the file writes them; null where that isn't known. */
  pixelsSha256: Nullable(Sha256),
  /** As exported by this application; else made from rig, start and length. */
  headerKey: Nullable(Type.String({ maxLength: 200 })),
  verdict: Nullable(oneOf(['accepted', 'rejected', 'undecided'] as const)),
});
export type ImportedFile = Static<typeof ImportedFile>;

export const FILE_STATES = ['ready', 'look', 'uncredited', 'choose', 'known', 'refused', 'added'] as const;

/** ready: imported with credit; look: a person confirms first, else no credit; uncredited: kept without credit;
 * choose: rig or filter must be chosen; known: already in the ledger; refused: can't be read; added: done. */
export const ImportRow = Type.Object({
  id: Id,
  name: Type.String(),
  state: oneOf(FILE_STATES),
  kind: Nullable(Type.String()),
  startUtcMs: Nullable(UtcMs),
  exposureSec: Nullable(Type.Number()),
  objectName: Name,
  /** As the header writes it. */
  filterName: Name,
  rigId: Nullable(Id),
  filterId: Nullable(Id),
  panelId: Nullable(Id),
  panelName: Nullable(Type.String()),
  projectName: Nullable(Type.String()),
  goalId: Nullable(Id),
  coverage: Nullable(Type.Number()),
  creditShare: Type.Number(),
  isByHand: Type.Boolean(),
  hasHash: Type.Boolean(),
  reasons: Type.Array(Type.String()),
  doubts: Type.Array(Type.String()),
});
export type ImportRow = Static<typeof ImportRow>;

export const ImportSummary = Type.Object({
  id: Id,
  source: Type.String(),
  who: Type.String(),
  state: oneOf(['preview', 'applied', 'undone'] as const),
  createdUtcMs: UtcMs,
  files: Type.Integer(),
  added: Type.Integer(),
});
export type ImportSummary = Static<typeof ImportSummary>;

export const listImports = operation({
  method: 'GET',
  path: '/imports',
  summary: 'Imports, newest first: one’s own; a coordinator’s view has all.',
  access: MEMBERS,
  response: Type.Object({ imports: Type.Array(ImportSummary) }),
});

export const beginImport = operation({
  method: 'POST',
  path: '/imports',
  summary: 'Begin an import: nothing reaches the ledger before it is applied.',
  access: MEMBERS,
  body: Type.Object({ source: Words(200) }),
  response: Type.Object({ id: Id }),
});

export const addImportFiles = operation({
  method: 'POST',
  path: '/imports/:id/files',
  summary: 'Add files by what their headers say; the files themselves stay where they are.',
  access: MEMBERS,
  params: IdParams,
  body: Type.Object({ files: Type.Array(ImportedFile, { minItems: 1, maxItems: MAX_FILES_A_CALL }) }),
  response: Type.Object({ ids: Type.Array(Id) }),
});

export const addImportHashes = operation({
  method: 'POST',
  path: '/imports/:id/hashes',
  summary: 'Hashes of data units and of their pixels, as the background reads them.',
  access: MEMBERS,
  params: IdParams,
  body: Type.Object({
    hashes: Type.Array(Type.Object({ fileId: Id, dataSha256: Sha256, pixelsSha256: Nullable(Sha256) }), {
      minItems: 1,
      maxItems: MAX_FILES_A_CALL,
    }),
  }),
  response: Ok,
});

export const readImport = operation({
  method: 'GET',
  path: '/imports/:id',
  summary: 'The preview: each file with rig, filter, panel and goal it would count for, and why.',
  access: MEMBERS,
  isDear: true,
  params: IdParams,
  response: Type.Object({
    id: Id,
    source: Type.String(),
    state: oneOf(['preview', 'applied', 'undone'] as const),
    rows: Type.Array(ImportRow),
    rigs: Type.Array(Type.Object({ id: Id, name: Type.String() })),
    filters: Type.Array(Type.Object({ id: Id, letter: Type.String() })),
    panels: Type.Array(Type.Object({ id: Id, name: Type.String(), projectName: Type.String(), rigId: Id })),
  }),
});
export type ImportPreview = Static<(typeof readImport)['response']>;

export const matchByHand = operation({
  method: 'POST',
  path: '/imports/:id/match',
  summary: 'Choose rig, filter or panel by hand; no panel keeps files without credit.',
  access: MEMBERS,
  params: IdParams,
  body: Type.Object({
    fileIds: Type.Array(Id, { minItems: 1, maxItems: 5000 }),
    rigId: Type.Optional(Id),
    filterId: Type.Optional(Id),
    panelId: Type.Optional(Nullable(Id)),
  }),
  response: Ok,
});

/** A large import is written by a job; a small one is written when the answer comes. */
export const ImportWriting = Type.Object({
  written: Nullable(Type.Object({ added: Type.Integer(), known: Type.Integer(), left: Type.Integer() })),
  job: Nullable(JobShown),
});
export type ImportWriting = Static<typeof ImportWriting>;

export const applyImport = operation({
  method: 'POST',
  path: '/imports/:id/apply',
  summary:
    'Write the previewed exposures into the ledger, all or none; one undo removes them. A large import is written by a job.',
  access: MEMBERS,
  isDear: true,
  params: IdParams,
  response: ImportWriting,
});

export const readImportWriting = operation({
  method: 'GET',
  path: '/imports/:id/writing',
  summary: 'How far the writing of a large import is, or what it wrote.',
  access: MEMBERS,
  params: IdParams,
  response: ImportWriting,
});

export const discardImport = operation({
  method: 'DELETE',
  path: '/imports/:id',
  summary: 'Forget an import that was not applied.',
  access: MEMBERS,
  params: IdParams,
  response: Ok,
});

export const teachFilterName = operation({
  method: 'PUT',
  path: '/filter-aliases',
  summary:
    'Always read a name that headers write as one of the observatory’s filters; without a filter it is forgotten.',
  access: COORDINATORS,
  body: Type.Object({ name: Words(300), filterId: Nullable(Id) }),
  response: Ok,
});
