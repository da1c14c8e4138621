// What keys do on the ledger, as a table or as pictures: move, select, judge.
import type { LedgerRow } from '@meridiem/contract';
import type { Selection } from '../view-model.ts';
import { movedCursor, toggled } from '../view-model.ts';

export const MARKS = { accepted: '●', undecided: '○', rejected: '✕' } as const;
const VERDICT_KEYS: Readonly<Record<string, LedgerRow['verdict']>> = { a: 'accepted', r: 'rejected', u: 'undecided' };

export interface LedgerKeys {
  /** How far each key moves. */
  readonly moves: Readonly<Record<string, number>>;
  readonly ids: readonly string[];
  readonly selection: Selection;
  readonly onSelection: (selection: Selection) => void;
  readonly onVerdict: (verdict: LedgerRow['verdict']) => void;
  /** Told where the cursor stands now, so that it can be brought into view. */
  readonly onMoved: (index: number) => void;
  readonly onOpen?: (id: string) => void;
}

export function onLedgerKey(
  event: React.KeyboardEvent,
  { moves, ids, selection, onSelection, onVerdict, onMoved, onOpen }: LedgerKeys,
): void {
  if (event.ctrlKey || event.metaKey || event.altKey) return;
  const move = moves[event.key];
  const { cursor } = selection;
  if (move !== undefined) {
    const next = movedCursor(selection, move, ids, event.shiftKey);
    onSelection(next);
    onMoved(ids.indexOf(next.cursor ?? ids[0]));
  } else if (event.key === ' ' && cursor !== null) onSelection(toggled(selection, cursor));
  else if (event.key === 'Enter' && cursor !== null && onOpen) onOpen(cursor);
  else if (VERDICT_KEYS[event.key]) onVerdict(VERDICT_KEYS[event.key]);
  else return;
  event.preventDefault();
}
