// The ledger as a table: one column list for CSV and VOTable, out and in again.
import Papa from 'papaparse';
import { CoreError } from '../errors.ts';
import type { UtcMs } from '../units.ts';
import type { FrameFacts } from './frame-facts.ts';
import { FRAME_KINDS } from './frame-facts.ts';

/** A row of text by column name; an empty text is nothing, never zero. */
export type TableRow = Readonly<Record<string, string>>;

/** One exposure of the ledger as it is exported. */
export interface LedgerRecord {
  readonly kind: FrameFacts['kind'];
  readonly rigName: string;
  readonly cameraName: string;
  readonly filterName: string;
  readonly startUtcMs: UtcMs;
  readonly exposureSec: number;
  readonly gain: number | null;
  readonly offset: number | null;
  readonly binning: number;
  readonly sensorC: number | null;
  readonly projectName: string | null;
  readonly panelName: string | null;
  readonly raDeg: number | null;
  readonly decDeg: number | null;
  readonly positionAngleDeg: number | null;
  readonly creditShare: number | null;
  readonly verdict: string;
  readonly verdictReason: string | null;
  readonly observerName: string | null;
  /** SHA-256 of the data unit, hexadecimal; null where it is not known. */
  readonly dataSha256: string | null;
  /** SHA-256 of the pixels however the file writes them, hexadecimal; null where it is not known. */
  readonly pixelsSha256: string | null;
  readonly headerKey: string | null;
  readonly isSimulated: boolean;
}

export interface TableColumn {
  readonly name: string;
  /** As VOUnits writes it. */
  readonly unit: string;
  readonly words: string;
  /** Text where left out. */
  readonly type?: 'double' | 'int';
  /** What it is, in the words of the virtual observatory. Source: IVOA UCD1+ 1.5. */
  readonly ucd?: string;
}

/** Columns in the order they are written. */
export const LEDGER_COLUMNS: readonly TableColumn[] = [
  { name: 'start_utc', unit: '', words: 'Start of the exposure, UTC, ISO 8601', ucd: 'time.start;obs.exposure' },
  { name: 'kind', unit: '', words: 'light, flat, dark or bias' },
  { name: 'rig', unit: '', words: 'Rig' },
  { name: 'camera', unit: '', words: 'Camera', ucd: 'meta.id;instr.det' },
  { name: 'filter', unit: '', words: 'Filter', ucd: 'meta.id;instr.filter' },
  { name: 'exposure_s', unit: 's', words: 'Length of the exposure', type: 'double', ucd: 'time.duration;obs.exposure' },
  { name: 'gain', unit: '', words: 'Gain setting', type: 'int', ucd: 'instr.setup' },
  { name: 'offset', unit: 'adu', words: 'Offset setting', type: 'int', ucd: 'instr.setup' },
  { name: 'binning', unit: '', words: 'Binning', type: 'int', ucd: 'instr.setup' },
  {
    name: 'sensor_c',
    unit: '"degC"',
    words: 'Sensor temperature, degrees Celsius',
    type: 'double',
    ucd: 'phys.temperature;instr.det',
  },
  { name: 'project', unit: '', words: 'Project it counts for' },
  { name: 'panel', unit: '', words: 'Panel it counts for' },
  { name: 'ra_deg', unit: 'deg', words: 'Right ascension of the panel, J2000', type: 'double', ucd: 'pos.eq.ra' },
  { name: 'dec_deg', unit: 'deg', words: 'Declination of the panel, J2000', type: 'double', ucd: 'pos.eq.dec' },
  { name: 'position_angle_deg', unit: 'deg', words: 'Position angle of the panel', type: 'double', ucd: 'pos.posAng' },
  { name: 'credit', unit: '', words: 'Goal counts it gives', type: 'double' },
  { name: 'verdict', unit: '', words: 'accepted, rejected or undecided', ucd: 'meta.code.qual' },
  { name: 'reason', unit: '', words: 'Reason of the verdict' },
  { name: 'observer', unit: '', words: 'Observer', ucd: 'meta.id;obs' },
  { name: 'data_sha256', unit: '', words: 'SHA-256 of the data unit' },
  { name: 'pixels_sha256', unit: '', words: 'SHA-256 of the pixels, however the file writes them' },
  { name: 'header_key', unit: '', words: 'Rig, start and length as known to the ledger' },
  { name: 'simulated', unit: '', words: '"yes" where a simulated observatory made it' },
];

const SIMULATED = 'yes';

export function ledgerRow(record: LedgerRecord): TableRow {
  const values = [
    new Date(record.startUtcMs).toISOString(),
    record.kind,
    record.rigName,
    record.cameraName,
    record.filterName,
    record.exposureSec,
    record.gain,
    record.offset,
    record.binning,
    record.sensorC,
    record.projectName,
    record.panelName,
    record.raDeg,
    record.decDeg,
    record.positionAngleDeg,
    record.creditShare,
    record.verdict,
    record.verdictReason,
    record.observerName,
    record.dataSha256,
    record.pixelsSha256,
    record.headerKey,
    record.isSimulated ? SIMULATED : null,
  ];
  return Object.fromEntries(LEDGER_COLUMNS.map(({ name }, i) => [name, values[i] === null ? '' : String(values[i])]));
}

/** A row as the facts of a frame, for importing a table.
 * @throws TABLE_UNREADABLE naming the row and what is wrong with it */
export function frameFromRow(row: TableRow, rowNumber: number): FrameFacts {
  const refuse = (words: string): never => {
    throw new CoreError('TABLE_UNREADABLE', `Row ${rowNumber}: ${words}`, { row: rowNumber });
  };
  const text = (name: string): string | null => (row[name] ?? '').trim() || null;
  const number = (name: string): number | null => {
    const words = text(name);
    if (words === null) return null;
    const value = Number(words);
    return Number.isFinite(value) ? value : refuse(`${name} "${words}" is no number`);
  };
  const startText = text('start_utc') ?? refuse('start_utc is missing');
  const hasZone = /(Z|[+-]\d\d:?\d\d)$/.test(startText);
  const startUtcMs = Date.parse(hasZone ? startText : `${startText}Z`);
  if (Number.isNaN(startUtcMs)) refuse(`start_utc "${startText}" is no moment like 2026-11-23T12:34:56Z`);
  const exposureSec = number('exposure_s');
  if (exposureSec === null || exposureSec < 0) refuse('exposure_s is missing or negative');
  const [raDeg, decDeg] = [number('ra_deg'), number('dec_deg')];
  if ((raDeg === null) !== (decDeg === null)) refuse('give both ra_deg and dec_deg or neither');
  const kind = text('kind') ?? 'light';
  if (!FRAME_KINDS.includes(kind as FrameFacts['kind'])) refuse(`kind "${kind}" is none of ${FRAME_KINDS.join(', ')}`);
  return {
    kind: kind as FrameFacts['kind'],
    objectName: text('panel') ?? text('project') ?? text('object'),
    centre: raDeg === null || decDeg === null ? null : { raDeg, decDeg },
    positionAngleDeg: number('position_angle_deg'),
    scaleArcsecPerPx: null,
    isMirrored: null,
    startUtcMs,
    startStepMs: /\.\d/.test(startText) ? 1 : 1000,
    exposureSec,
    filterName: text('filter'),
    gain: number('gain'),
    offset: number('offset'),
    binning: number('binning') ?? 1,
    sensorC: number('sensor_c'),
    cameraName: text('camera'),
    telescopeName: text('rig'),
    observerName: text('observer'),
    sequence: number('sequence'),
    widthPx: 0,
    heightPx: 0,
    isTruncated: false,
    isSimulated: text('simulated') === SIMULATED,
    combined: null,
    site: null,
    dataStart: 0,
    dataLength: 0,
    doubts: [],
  };
}

/** Rows as CSV (RFC 4180) with a header line; cells that a spreadsheet would take for a formula get an apostrophe in front. */
export function writeCsv(columns: readonly TableColumn[], rows: readonly TableRow[]): string {
  const names = columns.map(({ name }) => name);
  const cells = rows.map((row) => names.map((name) => guarded(row[name] ?? '')));
  return `${Papa.unparse([names, ...cells], { newline: '\r\n' })}\r\n`;
}

/** @param maxRows more are refused
 * @throws TABLE_UNREADABLE */
export function readCsv(text: string, maxRows = 200_000): TableRow[] {
  const { data, errors, meta } = Papa.parse<Record<string, string>>(text.replace(/^\uFEFF/, ''), {
    header: true,
    skipEmptyLines: 'greedy',
    transformHeader: (header) => header.trim().toLowerCase(),
  });
  const broken = errors.find(({ type }) => type === 'Quotes' || type === 'FieldMismatch');
  if (broken) throw new CoreError('TABLE_UNREADABLE', `Row ${(broken.row ?? 0) + 1}: ${broken.message}`, {});
  if (!meta.fields || meta.fields.length < 2)
    throw new CoreError('TABLE_UNREADABLE', 'The first line must name the columns, separated by commas', {});
  if (data.length > maxRows)
    throw new CoreError('TABLE_UNREADABLE', `The table has ${data.length} rows; at most ${maxRows} are read`, {});
  return data.map((row) =>
    Object.fromEntries(Object.entries(row).map(([name, value]) => [name, unguarded(String(value ?? ''))])),
  );
}

const isNumber = (text: string): boolean => text !== '' && Number.isFinite(Number(text));
const guarded = (text: string): string => (/^[=+\-@\t\r]/.test(text) && !isNumber(text) ? `'${text}` : text);
const unguarded = (text: string): string => (/^'[=+\-@\t\r]/.test(text) ? text.slice(1) : text);
