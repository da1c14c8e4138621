// Ledger selection: what a key or click does to it, without a page. Rows are known by their ids: those that come in above move nothing.

import type { LedgerRow } from '@meridiem/contract';

export interface Selection {
  /** Row that the keyboard stands on; null before it stands anywhere. */
  readonly cursor: string | null;
  /** Where a shift-selection began. */
  readonly anchor: string | null;
  readonly ids: ReadonlySet<string>;
}

export const EMPTY_SELECTION: Selection = { cursor: null, anchor: null, ids: new Set() };

/** Stands on a row, selecting nothing more. */
export const standing = ({ ids }: Selection, id: string): Selection => ({ cursor: id, anchor: id, ids });

/** Moves the cursor within the rows, from the first one where its own has left the list; with shift the rows from the
 * anchor are selected. */
export function movedCursor(selection: Selection, by: number, rowIds: readonly string[], extend: boolean): Selection {
  if (rowIds.length === 0) return selection;
  const indexOf = (id: string | null): number => Math.max(0, id === null ? 0 : rowIds.indexOf(id));
  const at = Math.min(rowIds.length - 1, Math.max(0, indexOf(selection.cursor) + by));
  const cursor = rowIds[at];
  if (!extend) return standing(selection, cursor);
  const anchor = selection.anchor ?? rowIds[0];
  const [from, to] = [indexOf(anchor), at].toSorted((a, b) => a - b);
  return { cursor, anchor, ids: new Set(rowIds.slice(from, to + 1)) };
}

/** Selects or deselects one row and stands on it. */
export function toggled(selection: Selection, id: string): Selection {
  const ids = new Set(selection.ids);
  if (!ids.delete(id)) ids.add(id);
  return { cursor: id, anchor: id, ids };
}

/** What a verdict is given to: the selection, or the row the cursor stands on. */
export function judged(selection: Selection, rowIds: readonly string[]): string[] {
  const selected = rowIds.filter((id) => selection.ids.has(id));
  return selected.length > 0 ? selected : rowIds.filter((id) => id === selection.cursor);
}

/** One key a reason, in their order. */
export const REASON_KEYS = '1234567890bcdefg';

/** What a picture is looked at twice for. */
export const pictureMarks = ({ afterMove, trailCount }: Pick<LedgerRow, 'afterMove' | 'trailCount'>): string[] => [
  ...(trailCount ? [trailCount === 1 ? 'trail' : `${trailCount} trails`] : []),
  ...(afterMove ? ['after a move'] : []),
];
