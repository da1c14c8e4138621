// Tables out: the ledger, targets, goals; what the viewer may not see by name is left out.
import type { QueryOf, exportGoals, exportLedger } from '@meridiem/contract';
import { MAX_EXPORT_ROWS } from '@meridiem/contract';
import type { TableColumn, TableRow } from '@meridiem/core';
import { LEDGER_COLUMNS, ledgerRow, writeCsv, writeVoTable } from '@meridiem/core';
import type { Database } from '../../database/connection.ts';
import { ServiceError } from '../../errors.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { ledgerRecords, targetRecords, goalRecords } from './repository.ts';

type Format = 'csv' | 'votable' | undefined;

export interface ExportedTable {
  readonly text: string;
  readonly contentType: string;
  readonly fileName: string;
}

export type ExportService = ReturnType<typeof createExportService>;

const TARGET_COLUMNS: readonly TableColumn[] = [
  { name: 'project', unit: '', words: 'Project' },
  { name: 'owner', unit: '', words: 'Owner' },
  { name: 'target', unit: '', words: 'Target' },
  { name: 'panel', unit: '', words: 'Panel' },
  { name: 'ra_deg', unit: 'deg', words: 'Right ascension, J2000', type: 'double', ucd: 'pos.eq.ra' },
  { name: 'dec_deg', unit: 'deg', words: 'Declination, J2000', type: 'double', ucd: 'pos.eq.dec' },
  { name: 'position_angle_deg', unit: 'deg', words: 'Position angle', type: 'double', ucd: 'pos.posAng' },
  { name: 'rig', unit: '', words: 'Rig' },
];

const GOAL_COLUMNS: readonly TableColumn[] = [
  { name: 'project', unit: '', words: 'Project' },
  { name: 'panel', unit: '', words: 'Panel' },
  { name: 'filter', unit: '', words: 'Filter' },
  { name: 'recipe', unit: '', words: 'Recipe' },
  { name: 'exposure_s', unit: 's', words: 'Length of one exposure', type: 'double', ucd: 'time.duration;obs.exposure' },
  { name: 'wanted', unit: '', words: 'Exposures wanted; empty where open-ended', type: 'int' },
  { name: 'accepted', unit: '', words: 'Goal counts accepted', type: 'double' },
  { name: 'undecided', unit: '', words: 'Goal counts undecided', type: 'double' },
  { name: 'rejected', unit: '', words: 'Goal counts rejected', type: 'double' },
  { name: 'accepted_s', unit: 's', words: 'Exposure time accepted', type: 'double' },
  { name: 'effective_s', unit: 's', words: 'Accepted time weighted by the sky', type: 'double' },
];

export function createExportService({ database }: { database: Database }) {
  return {
    async ledger(viewer: Viewer, { format, ...filter }: QueryOf<typeof exportLedger>): Promise<ExportedTable> {
      const records = await ledgerRecords(database, viewer, filter);
      return table('ledger', LEDGER_COLUMNS, records.map(ledgerRow), format);
    },

    async targets(viewer: Viewer, format: Format): Promise<ExportedTable> {
      const rows = await targetRecords(database, viewer);
      return table('targets', TARGET_COLUMNS, rows.map(filled), format);
    },

    async goals(viewer: Viewer, { format, project }: QueryOf<typeof exportGoals>): Promise<ExportedTable> {
      const rows = await goalRecords(database, viewer, project);
      return table('goals', GOAL_COLUMNS, rows.map(filled), format);
    },
  };
}

const filled = (row: Record<string, string | null>): TableRow =>
  Object.fromEntries(Object.entries(row).map(([name, value]) => [name, value ?? '']));

function table(
  name: string,
  columns: readonly TableColumn[],
  rows: readonly TableRow[],
  format: Format = 'csv',
): ExportedTable {
  if (rows.length > MAX_EXPORT_ROWS)
    throw new ServiceError(
      'TOO_LARGE',
      `That are more than ${MAX_EXPORT_ROWS} rows: choose a project, a filter or a night`,
    );
  return format === 'votable'
    ? {
        text: writeVoTable(name, columns, rows),
        contentType: 'application/x-votable+xml; charset=utf-8',
        fileName: `${name}.xml`,
      }
    : { text: writeCsv(columns, rows), contentType: 'text/csv; charset=utf-8', fileName: `${name}.csv` };
}
