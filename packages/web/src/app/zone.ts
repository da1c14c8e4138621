// In which zone times are shown: the observatory's, UTC, or one's own; a choice of this device, always named beside the times.
import { useSyncExternalStore } from 'react';
import { useAccount } from './session.ts';

const CHOICES = ['observatory', 'utc', 'own'] as const;
type Choice = (typeof CHOICES)[number];
const KEY = 'meridiem-times';

const listeners = new Set<() => void>();
let choice: Choice = CHOICES.find((known) => known === localStorage.getItem(KEY)) ?? 'observatory';

/** Observatory, then UTC, then one's own, then around again. */
export function turnZone(): void {
  choice = CHOICES[(CHOICES.indexOf(choice) + 1) % CHOICES.length];
  localStorage.setItem(KEY, choice);
  for (const listener of listeners) listener();
}

export interface ShownZone {
  readonly zone: string;
  /** "UTC", "Australia/Adelaide, the observatory’s" */
  readonly words: string;
}

export function useShownZone(observatoryZone: string): ShownZone {
  const { timeZone } = useAccount();
  const chosen = useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => choice,
  );
  if (chosen === 'utc') return { zone: 'utc', words: 'UTC' };
  if (chosen === 'own') return { zone: timeZone, words: `${timeZone}, yours` };
  return { zone: observatoryZone, words: `${observatoryZone}, the observatory’s` };
}
