// Values of a header by keyword, forgiving of how they are written.
import type { CardValue, FitsCard } from './fits-header.ts';
import { cardOf } from './fits-header.ts';

export interface HeaderReader {
  value(keyword: string): CardValue | undefined;
  comment(keyword: string): string;
  /** Trimmed; null where empty or absent. */
  text(keyword: string): string | null;
  number(keyword: string): number | null;
}

export function headerReader(cards: readonly FitsCard[]): HeaderReader {
  const value = (keyword: string): CardValue | undefined => cardOf(cards, keyword)?.value;
  return {
    value,
    comment: (keyword) => cardOf(cards, keyword)?.comment ?? '',
    text(keyword) {
      const found = value(keyword);
      const words = found === null || found === undefined ? '' : String(found).trim();
      return words === '' ? null : words;
    },
    number(keyword) {
      const found = value(keyword);
      if (typeof found === 'number') return found;
      return typeof found === 'string' && found.trim() !== '' && Number.isFinite(Number(found)) ? Number(found) : null;
    },
  };
}

/** The first of several keywords that gives a number. */
export const firstNumber = ({ number }: HeaderReader, keywords: readonly string[]): number | null =>
  keywords.map(number).find((found) => found !== null) ?? null;

/** The first of several keywords that gives a text. */
export const firstText = ({ text }: HeaderReader, keywords: readonly string[]): string | null =>
  keywords.map(text).find((found) => found !== null) ?? null;
