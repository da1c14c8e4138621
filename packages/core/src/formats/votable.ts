// Tables as VOTable, written and read. Source: IVOA Recommendation VOTable Format Definition 1.4; written as TABLEDATA, read as BINARY and BINARY2 as well.
import { XMLBuilder, XMLParser } from 'fast-xml-parser';
import { CoreError } from '../errors.ts';
import type { TableColumn, TableRow } from './ledger-table.ts';
import { readBinaryRows } from './votable-binary.ts';

const NAMESPACE = 'http://www.ivoa.net/xml/VOTable/v1.3';
const ATTRIBUTE = '@';

export function writeVoTable(name: string, columns: readonly TableColumn[], rows: readonly TableRow[]): string {
  const fields = columns.map(fieldOf);
  const records = rows.map((row) => ({ TD: columns.map((column) => cellOf(column, row[column.name] ?? '')) }));
  const builder = new XMLBuilder({ ignoreAttributes: false, attributeNamePrefix: ATTRIBUTE, format: true });
  return builder.build({
    '?xml': { [`${ATTRIBUTE}version`]: '1.0', [`${ATTRIBUTE}encoding`]: 'UTF-8' },
    VOTABLE: {
      [`${ATTRIBUTE}version`]: '1.4',
      [`${ATTRIBUTE}xmlns`]: NAMESPACE,
      RESOURCE: {
        [`${ATTRIBUTE}type`]: 'results',
        COOSYS: { [`${ATTRIBUTE}ID`]: SKY, [`${ATTRIBUTE}system`]: 'ICRS' },
        TIMESYS: {
          [`${ATTRIBUTE}ID`]: TIME,
          [`${ATTRIBUTE}timescale`]: 'UTC',
          [`${ATTRIBUTE}refposition`]: 'TOPOCENTER',
        },
        TABLE: { [`${ATTRIBUTE}name`]: name, FIELD: fields, DATA: { TABLEDATA: { TR: records } } },
      },
    },
  });
}

const SKY = 'sky';
const TIME = 'time';
/** A whole number that is none: TABLEDATA has no other way to leave one out. */
const NO_NUMBER = -2_147_483_648;

function fieldOf({ name, unit, words, type, ucd }: TableColumn): Record<string, unknown> {
  const refers = ucd?.startsWith('pos.') ? SKY : ucd?.startsWith('time.start') ? TIME : null;
  return {
    [`${ATTRIBUTE}name`]: name,
    [`${ATTRIBUTE}datatype`]: type ?? 'unicodeChar',
    ...(type ? {} : { [`${ATTRIBUTE}arraysize`]: '*' }),
    ...(unit ? { [`${ATTRIBUTE}unit`]: unit } : {}),
    ...(ucd ? { [`${ATTRIBUTE}ucd`]: ucd } : {}),
    ...(refers ? { [`${ATTRIBUTE}ref`]: refers } : {}),
    ...(name === 'start_utc' ? { [`${ATTRIBUTE}xtype`]: 'timestamp' } : {}),
    DESCRIPTION: words,
    ...(type === 'int' ? { VALUES: { [`${ATTRIBUTE}null`]: String(NO_NUMBER) } } : {}),
  };
}

/** Nothing is not a number: NaN where numbers have one, the stated null where they are whole. */
const cellOf = ({ type }: TableColumn, text: string): string =>
  text !== '' || !type ? text : type === 'int' ? String(NO_NUMBER) : 'NaN';

/** Rows of the first table. Entities other than the five of XML are not expanded, external ones never.
 * @throws TABLE_UNREADABLE */
export function readVoTable(text: string): TableRow[] {
  if (/<!DOCTYPE|<!ENTITY/i.test(text))
    throw new CoreError('TABLE_UNREADABLE', 'The VOTable declares entities of its own; it is not read', {});
  const table = firstTable(text);
  const fields = listOf(table.FIELD) as Record<string, unknown>[];
  if (fields.length === 0) throw new CoreError('TABLE_UNREADABLE', 'The VOTable has no fields', {});
  const empty = fields.map(emptyValuesOf);
  return cellsOf(table, fields).map((cells) =>
    Object.fromEntries(
      fields.map((field, i) => {
        const cell = String(cells[i] ?? '');
        return [String(field[`${ATTRIBUTE}name`] ?? ''), empty[i].has(cell) ? '' : cell];
      }),
    ),
  );
}

/** The cells of each row, from whichever serialization they stand in. */
function cellsOf(table: Record<string, unknown>, fields: readonly Record<string, unknown>[]): unknown[][] {
  const data = table.DATA as { TABLEDATA?: { TR?: unknown }; BINARY?: Stream; BINARY2?: Stream } | undefined;
  if (data?.TABLEDATA !== undefined)
    return listOf(data.TABLEDATA.TR).map((record) => listOf((record as { TD?: unknown }).TD));
  const stream = data?.BINARY2?.STREAM ?? data?.BINARY?.STREAM;
  const text = typeof stream === 'object' ? stream['#text'] : stream;
  if (text === undefined)
    throw new CoreError('TABLE_UNREADABLE', 'The VOTable’s data are not TABLEDATA, BINARY or BINARY2', {});
  const described = fields.map((field) => ({
    datatype: String(field[`${ATTRIBUTE}datatype`]),
    arraysize: field[`${ATTRIBUTE}arraysize`] as string | undefined,
  }));
  return readBinaryRows(text, described, { hasNullFlags: data?.BINARY2 !== undefined });
}

interface Stream {
  readonly STREAM?: string | { readonly '#text'?: string };
}

/** How a field writes that there is nothing. */
function emptyValuesOf(field: Record<string, unknown>): ReadonlySet<string> {
  const [values] = listOf(field.VALUES) as Record<string, unknown>[];
  const stated = values?.[`${ATTRIBUTE}null`];
  const isReal = /^(float|double)$/.test(String(field[`${ATTRIBUTE}datatype`]));
  return new Set([...(stated === undefined ? [] : [String(stated)]), ...(isReal ? ['NaN', 'nan', ''] : [])]);
}

function firstTable(text: string): Record<string, unknown> {
  const parser = new XMLParser({
    ignoreAttributes: false,
    attributeNamePrefix: ATTRIBUTE,
    parseTagValue: false,
    parseAttributeValue: false,
    removeNSPrefix: true,
  });
  try {
    const document = parser.parse(text, true) as { VOTABLE?: { RESOURCE?: unknown } };
    const resource = listOf(document.VOTABLE?.RESOURCE)[0] as { TABLE?: unknown } | undefined;
    const table = listOf(resource?.TABLE)[0];
    if (table) return table as Record<string, unknown>;
  } catch {
    // Said below in the same words.
  }
  throw new CoreError('TABLE_UNREADABLE', 'This is no VOTable with a table inside', {});
}

const listOf = (value: unknown): unknown[] =>
  value === undefined || value === '' ? [] : Array.isArray(value) ? value : [value];
