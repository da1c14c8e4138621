import { useEffect } from 'react';

/** What fits between the margins of an A4 sheet (styles.css, @page), at 96 px to the inch. */
const SHEET_HEIGHT_PX = (273 / 25.4) * 96;
/** Smaller than the last nobody reads it at the telescope: then it takes more sheets, at full size. */
const ZOOMS = [1, 0.95, 0.9, 0.85, 0.8, 0.75, 0.7, 0.65, 0.6];

/** Pages print in paper's colours whatever the screen's, and on one sheet where making them smaller helps. */
export function useOneSheet(): void {
  useEffect(() => {
    let undo: (() => void) | undefined;
    const after = (): void => {
      undo?.();
      undo = undefined;
    };
    const before = (): void => {
      after();
      undo = putOnPaper(document.documentElement);
    };
    addEventListener('beforeprint', before);
    addEventListener('afterprint', after);
    return () => {
      removeEventListener('beforeprint', before);
      removeEventListener('afterprint', after);
      after();
    };
  }, []);
}

function putOnPaper(html: HTMLElement): () => void {
  const { theme } = html.dataset;
  html.classList.add('on-paper');
  html.dataset.theme = 'paper';
  const fits = (zoom: number): boolean => {
    html.style.setProperty('--sheet-zoom', String(zoom));
    return document.body.getBoundingClientRect().height <= SHEET_HEIGHT_PX;
  };
  if (!ZOOMS.some(fits)) fits(1);
  return () => {
    html.classList.remove('on-paper');
    html.style.removeProperty('--sheet-zoom');
    html.dataset.theme = theme;
  };
}
