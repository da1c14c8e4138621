// Tables as VOTable, written and read. Source: IVOA Recommendation VOTable Format Definition 1.4, TABLEDATA serialization.
import { XMLBuilder, XMLParser } from 'fast-xml-parser';
import { CoreError } from '../errors.ts';
import type { TableColumn, TableRow } from './ledger-table.ts';

const NAMESPACE = 'http://www.ivoa.net/xml/VOTable/v1.3';
const ATTRIBUTE = '@';

export function writeVoTable(name: string, columns: readonly TableColumn[], rows: readonly TableRow[]): string {
  const fields = columns.map(({ name: field, unit, words }) => ({
    [`${ATTRIBUTE}name`]: field,
    [`${ATTRIBUTE}datatype`]: 'char',
    [`${ATTRIBUTE}arraysize`]: '*',
    ...(unit ? { [`${ATTRIBUTE}unit`]: unit } : {}),
    DESCRIPTION: words,
  }));
  const records = rows.map((row) => ({ TD: columns.map(({ name: field }) => row[field] ?? '') }));
  const builder = new XMLBuilder({ ignoreAttributes: false, attributeNamePrefix: ATTRIBUTE, format: true });
  return builder.build({
    '?xml': { [`${ATTRIBUTE}version`]: '1.0', [`${ATTRIBUTE}encoding`]: 'UTF-8' },
    VOTABLE: {
      [`${ATTRIBUTE}version`]: '1.4',
      [`${ATTRIBUTE}xmlns`]: NAMESPACE,
      RESOURCE: { TABLE: { [`${ATTRIBUTE}name`]: name, FIELD: fields, DATA: { TABLEDATA: { TR: records } } } },
    },
  });
}

/** Rows of the first table. Entities other than the five of XML are not expanded, external ones never.
 * @throws TABLE_UNREADABLE */
export function readVoTable(text: string): TableRow[] {
  if (/<!DOCTYPE|<!ENTITY/i.test(text))
    throw new CoreError('TABLE_UNREADABLE', 'The VOTable declares entities of its own; it is not read', {});
  const table = firstTable(text);
  const names = listOf(table.FIELD).map((field) =>
    String((field as Record<string, unknown>)[`${ATTRIBUTE}name`] ?? ''),
  );
  const data = (table.DATA as { TABLEDATA?: { TR?: unknown } } | undefined)?.TABLEDATA;
  if (names.length === 0 || data === undefined)
    throw new CoreError('TABLE_UNREADABLE', 'The VOTable has no fields, or its data are not in TABLEDATA', {});
  return listOf(data.TR).map((record) => {
    const cells = listOf((record as { TD?: unknown }).TD);
    return Object.fromEntries(names.map((name, i) => [name, cells[i] === undefined ? '' : String(cells[i])]));
  });
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
