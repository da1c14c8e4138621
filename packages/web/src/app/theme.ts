import { useEffect, useState, useSyncExternalStore } from 'react';

export const THEMES = ['paper', 'lamp', 'ember'] as const;
export type Theme = (typeof THEMES)[number];
const KEY = 'meridiem-theme';

/** The paper one reads on; remembered on this device. */
export function useTheme(): [Theme, (theme: Theme) => void] {
  const [theme, setTheme] = useState<Theme>(
    () => THEMES.find((known) => known === localStorage.getItem(KEY)) ?? 'paper',
  );
  useEffect(() => {
    document.documentElement.dataset.theme = theme;
    localStorage.setItem(KEY, theme);
  }, [theme]);
  return [theme, setTheme];
}

/** The theme as shown now, for what is drawn by hand. */
export const useShownTheme = (): string | undefined =>
  useSyncExternalStore(watchTheme, () => document.documentElement.dataset.theme);

function watchTheme(onChange: () => void): () => void {
  const observer = new MutationObserver(onChange);
  observer.observe(document.documentElement, { attributeFilter: ['data-theme'] });
  return () => observer.disconnect();
}
