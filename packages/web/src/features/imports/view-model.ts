// Files of an import gathered into lines that a person can decide on.
import type { ImportPreview, ImportRow } from '@meridiem/contract';

export type FileState = ImportRow['state'];

/** In the order a person deals with them. */
export const STATE_ORDER: readonly FileState[] = ['choose', 'look', 'ready', 'uncredited', 'known', 'refused', 'added'];

export const STATE_WORDS: Readonly<Record<FileState, { readonly words: string; readonly meaning: string }>> = {
  choose: { words: 'to choose', meaning: 'Rig or filter is not known from the header: choose it, or these stay out.' },
  look: { words: 'to look at', meaning: 'Not sure enough: confirm, or they enter the ledger without credit.' },
  ready: { words: 'ready', meaning: 'Enter the ledger and count.' },
  uncredited: { words: 'without credit', meaning: 'Enter the ledger; no goal wants them.' },
  known: { words: 'known', meaning: 'In the ledger already; nothing is doubled.' },
  refused: { words: 'can’t be read', meaning: 'Stay out, with the reason.' },
  added: { words: 'added', meaning: 'In the ledger.' },
};

/** Files that share their state, what they count for and why. */
export interface FileGroup {
  readonly key: string;
  readonly state: FileState;
  readonly rows: readonly ImportRow[];
  /** "NGC 7090 in colour 1, L" or what is missing. */
  readonly goal: string;
  readonly reasons: readonly string[];
  readonly doubts: readonly string[];
  readonly hours: number;
}

export function groupsOf({ rows, filters, rigs }: Pick<ImportPreview, 'rows' | 'filters' | 'rigs'>): FileGroup[] {
  const groups = new Map<string, ImportRow[]>();
  for (const row of rows) {
    // Coverage and angles differ a little from frame to frame; what they lead to groups them.
    const why = row.state === 'refused' || row.state === 'choose' ? row.reasons.join('|') : '';
    const key = [row.state, row.kind, row.rigId, row.panelId, row.filterId, row.goalId, row.isByHand, why].join('/');
    groups.set(key, [...(groups.get(key) ?? []), row]);
  }
  const letterOf = (id: string | null): string => filters.find((filter) => filter.id === id)?.letter ?? 'no filter';
  return [...groups.entries()]
    .map(([key, own]): FileGroup => {
      const [first] = own;
      const rigName = rigs.find(({ id }) => id === first.rigId)?.name ?? 'no rig';
      const place = first.panelName ?? (first.kind === 'light' ? 'no project' : (first.kind ?? 'unreadable'));
      return {
        key,
        state: first.state,
        rows: own,
        goal: first.kind === null ? 'unreadable' : `${place}, ${letterOf(first.filterId)}, ${rigName}`,
        reasons: [...new Set(first.reasons)],
        doubts: [...new Set(own.flatMap((row) => row.doubts))].slice(0, 4),
        hours: own.reduce((sum, row) => sum + (row.exposureSec ?? 0), 0) / 3600,
      };
    })
    .sort((a, b) => STATE_ORDER.indexOf(a.state) - STATE_ORDER.indexOf(b.state) || b.rows.length - a.rows.length);
}

/** "412 ready, 3 to look at" of those that are there. */
export const summaryOf = (rows: readonly ImportRow[]): string =>
  STATE_ORDER.flatMap((state) => {
    const count = rows.filter((row) => row.state === state).length;
    return count > 0 ? [`${count} ${STATE_WORDS[state].words}`] : [];
  }).join(', ');

/** How many exposures applying would write. */
export const toWrite = (rows: readonly ImportRow[]): number =>
  rows.filter(({ state }) => state === 'ready' || state === 'look' || state === 'uncredited').length;

/** What became of an import's files. */
export const writtenWords = ({ added, known, left }: { added: number; known: number; left: number }): string =>
  `${added} added, ${known} known already, ${left} left out`;
