// Requests and grants of a project in words.
import type { Envelope, Request } from '@meridiem/contract';
import type { REMARK_FIELDS } from '@meridiem/contract';
import { hours } from '../../words/format.ts';

/** "12.0 h moonless and 4.0 h moonlit" */
export function skiesWords(darkHours: number, brightHours: number): string {
  const parts = [
    ...(darkHours > 0 ? [`${hours(darkHours)} h moonless`] : []),
    ...(brightHours > 0 ? [`${hours(brightHours)} h moonlit`] : []),
  ];
  return parts.join(' and ') || 'nothing';
}

/** What of the grants is used, and that there is no bound where there is none. */
export function envelopeWords(envelope: Envelope | null): string {
  if (!envelope) return 'Granted without a bound: planned as far as its goals go.';
  const { darkHours, brightHours, usedDarkHours, usedBrightHours } = envelope;
  const of = (granted: number, used: number, sky: string): string[] =>
    granted > 0 ? [`${hours(used)} of ${hours(granted)} h ${sky} used`] : [];
  return [...of(darkHours, usedDarkHours, 'moonless'), ...of(brightHours, usedBrightHours, 'moonlit')].join(', ');
}

/** "Ruan Aldous asks for 12.0 h moonless, second in the queue." */
export function requestWords({
  personName,
  darkHours,
  brightHours,
  state,
  queuePlace,
  decidedByName,
}: Request): string {
  const skies = skiesWords(darkHours, brightHours);
  switch (state) {
    case 'open':
      return `${personName} asks for ${skies}.`;
    case 'queued':
      return `${personName} asks for ${skies}; number ${queuePlace} in the queue.`;
    case 'granted':
      return `${personName} asked for ${skies}; granted by ${decidedByName}.`;
    case 'returned':
      return `${personName} asked for ${skies}; returned by ${decidedByName}.`;
    case 'withdrawn':
      return `${personName} asked for ${skies} and withdrew it.`;
  }
}

const FIELD_WORDS: Readonly<Record<(typeof REMARK_FIELDS)[number], string>> = {
  hours: 'the hours',
  goals: 'the goals',
  framing: 'the framing',
  limits: 'the limits',
  deadline: 'the last night',
  words: 'what it is for',
};
export const remarkFieldWords = (field: (typeof REMARK_FIELDS)[number]): string => FIELD_WORDS[field];

/** "12.5", "12,5 h" or nothing, which is 0; null for anything else. */
export function typedHours(text: string): number | null {
  const value = Number(text.replace(',', '.').replace(/h$/, '').trim());
  return Number.isFinite(value) && value >= 0 ? value : null;
}
