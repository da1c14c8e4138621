import { useSyncExternalStore } from 'react';

export const THEMES = ['paper', 'lamp', 'ember'] as const;
export type Theme = (typeof THEMES)[number];
const KEY = 'meridiem-theme';

const kept = (): Theme => THEMES.find((known) => known === localStorage.getItem(KEY)) ?? 'paper';

/** Shown at once on the whole page, and remembered on this device. */
function setTheme(theme: Theme): void {
  localStorage.setItem(KEY, theme);
  document.documentElement.dataset.theme = theme;
}

// Before anything is drawn.
document.documentElement.dataset.theme ??= kept();

/** The theme of this device, shared by everything that shows or changes it. */
export function useTheme(): [Theme, (theme: Theme) => void] {
  const shown = useShownTheme();
  return [THEMES.find((known) => known === shown) ?? kept(), setTheme];
}

/** The theme as shown now, for what is drawn by hand. */
export const useShownTheme = (): string | undefined =>
  useSyncExternalStore(watchTheme, () => document.documentElement.dataset.theme);

function watchTheme(onChange: () => void): () => void {
  const observer = new MutationObserver(onChange);
  observer.observe(document.documentElement, { attributeFilter: ['data-theme'] });
  return () => observer.disconnect();
}
