// Tables as VOTable, written and read. Source: IVOA Recommendation VOTable Format Definition 1.4, TABLEDATA serialization.
import { XMLBuilder, XMLParser } from 'fast-xml-parser';
import { CoreError } from '../errors.ts';
import type { TableColumn, TableRow } from './ledger-table.ts';

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
  const names = listOf(table.FIELD).map((field) =>
    String((field as Record<string, unknown>)[`${ATTRIBUTE}name`] ?? ''),
  );
  const empty = listOf(table.FIELD).map((field) => emptyValuesOf(field as Record<string, unknown>));
  const data = (table.DATA as { TABLEDATA?: { TR?: unknown } } | undefined)?.TABLEDATA;
  if (names.length === 0 || data === undefined)
    throw new CoreError('TABLE_UNREADABLE', 'The VOTable has no fields, or its data are not in TABLEDATA', {});
  return listOf(data.TR).map((record) => {
    const cells = listOf((record as { TD?: unknown }).TD);
    return Object.fromEntries(
      names.map((name, i) => [name, cells[i] === undefined || empty[i].has(String(cells[i])) ? '' : String(cells[i])]),
    );
  });
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
