// Ledger selection: what a key or click does to it, without a page.

export interface Selection {
  /** Row that the keyboard stands on. */
  readonly cursor: number;
  /** Where a shift-selection began. */
  readonly anchor: number;
  readonly ids: ReadonlySet<string>;
}

export const EMPTY_SELECTION: Selection = { cursor: 0, anchor: 0, ids: new Set() };

/** Moves the cursor within the rows; with shift the rows from the anchor are selected. */
export function movedCursor(selection: Selection, by: number, rowIds: readonly string[], extend: boolean): Selection {
  const cursor = Math.min(rowIds.length - 1, Math.max(0, selection.cursor + by));
  if (!extend) return { cursor, anchor: cursor, ids: selection.ids };
  const [from, to] = [Math.min(selection.anchor, cursor), Math.max(selection.anchor, cursor)];
  return { cursor, anchor: selection.anchor, ids: new Set(rowIds.slice(from, to + 1)) };
}

/** Selects or deselects one row and stands on it. */
export function toggled(selection: Selection, index: number, id: string): Selection {
  const ids = new Set(selection.ids);
  if (!ids.delete(id)) ids.add(id);
  return { cursor: index, anchor: index, ids };
}

/** What a verdict is given to: the selection, or the row the cursor stands on. */
export function judged(selection: Selection, rowIds: readonly string[]): string[] {
  const selected = rowIds.filter((id) => selection.ids.has(id));
  if (selected.length > 0) return selected;
  const under = rowIds[selection.cursor];
  return under ? [under] : [];
}
