// Tables on a narrow screen: each row becomes a card whose lines carry the heads of their columns. How a card looks stands in styles.css.
import { useEffect } from 'react';

const NARROW = '(max-width: 640px)';

/** Gives each cell the head of its column, so that the card can show it. */
function labelCells(table: HTMLTableElement): void {
  const heads = [...(table.tHead?.rows[0]?.cells ?? [])].map((head) => head.textContent?.trim() ?? '');
  for (const row of table.tBodies[0]?.rows ?? []) {
    let column = 0;
    for (const cell of row.cells) {
      const label = cell.colSpan > 1 ? '' : (heads[column] ?? '');
      if (cell.dataset.label !== label) cell.dataset.label = label;
      column += cell.colSpan;
    }
  }
}

/** Keeps the tables of the page labelled while the screen is narrow. */
export function useCardTables(): void {
  useEffect(() => {
    const narrow = matchMedia(NARROW);
    const label = (): void => {
      if (narrow.matches) document.querySelectorAll<HTMLTableElement>('main table').forEach(labelCells);
    };
    const observer = new MutationObserver(label);
    observer.observe(document.body, { childList: true, subtree: true });
    narrow.addEventListener('change', label);
    label();
    return () => {
      observer.disconnect();
      narrow.removeEventListener('change', label);
    };
  }, []);
}
