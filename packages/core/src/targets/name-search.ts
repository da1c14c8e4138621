// Everyday names found by their beginning, by any word, by a part, or with a typing error.

export interface Named<T> {
  readonly name: string;
  readonly item: T;
}

const GREEK: Readonly<Record<string, string>> = {
  α: 'alpha',
  β: 'beta',
  γ: 'gamma',
  δ: 'delta',
  ε: 'epsilon',
  ζ: 'zeta',
  η: 'eta',
  θ: 'theta',
  ι: 'iota',
  κ: 'kappa',
  λ: 'lambda',
  μ: 'mu',
  ν: 'nu',
  ξ: 'xi',
  ο: 'omicron',
  π: 'pi',
  ρ: 'rho',
  σ: 'sigma',
  ς: 'sigma',
  τ: 'tau',
  υ: 'upsilon',
  φ: 'phi',
  χ: 'chi',
  ψ: 'psi',
  ω: 'omega',
};

/** Words of a name in plain small letters: no accents, Greek letters spelled out, "'s" taken off. */
export const wordsOfName = (text: string): string[] =>
  text
    .toLowerCase()
    .replace(/[α-ω]/g, (letter) => GREEK[letter] ?? letter)
    .normalize('NFD')
    .replace(/[\u0300-\u036f]/g, '')
    .replace(/['’]s\b/g, 's')
    .split(/[^a-z0-9]+/)
    .filter((word) => word !== '');

interface Prepared<T> extends Named<T> {
  readonly words: readonly string[];
  /** The words run together: spaces are typed or not. */
  readonly joined: string;
}

/** How well a name answers; the smallest first: kind of match, then errors, then letters left over. */
type Score = readonly [kind: number, errors: number, leftOver: number];

/** Errors that a query of a length may hold. */
const errorsAllowed = (length: number): number => (length < 4 ? 0 : length < 8 ? 1 : 2);

/** Prepares names for being searched many times. Equal answers keep the order in which they were given.
 * @returns the best items for what was typed, each once */
export function nameSearch<T>(named: readonly Named<T>[]): (typed: string, most: number) => T[] {
  const prepared = named.map((entry): Prepared<T> => {
    const words = wordsOfName(entry.name);
    return { ...entry, words, joined: words.join('') };
  });
  return (typed, most) => {
    const words = wordsOfName(typed);
    const joined = words.join('');
    if (joined.length < 2) return [];
    const scored = prepared
      .map((entry) => ({ entry, score: scoreOf(entry, words, joined) }))
      .filter((one): one is { entry: Prepared<T>; score: Score } => one.score !== null)
      .sort((a, b) => a.score[0] - b.score[0] || a.score[1] - b.score[1] || a.score[2] - b.score[2]);
    return [...new Set(scored.map(({ entry }) => entry.item))].slice(0, most);
  };
}

function scoreOf<T>(entry: Prepared<T>, words: readonly string[], joined: string): Score | null {
  const leftOver = Math.max(0, entry.joined.length - joined.length);
  if (entry.joined === joined) return [0, 0, 0];
  if (entry.joined.startsWith(joined)) return [1, 0, leftOver];
  if (words.every((word) => entry.words.some((own) => own.startsWith(word)))) return [2, 0, leftOver];
  if (joined.length > 2 && entry.joined.includes(joined)) return [3, 0, leftOver];
  const allowed = errorsAllowed(joined.length);
  if (allowed === 0) return null;
  const { whole, beginning } = typingErrors(joined, entry.joined);
  if (whole <= allowed) return [4, whole, leftOver];
  if (beginning <= Math.min(1, allowed)) return [5, beginning, leftOver];
  const byWord =
    words.length === 1 ? Math.min(...entry.words.map((own) => typingErrors(joined, own).beginning)) : Infinity;
  return byWord <= Math.min(1, allowed) ? [6, byWord, leftOver] : null;
}

/** Letters wrong, missing, too many or exchanged with a neighbour, for the whole of a name and for its best beginning.
 * Source: optimal string alignment, Damerau 1964 restricted as by Boytsov 2011. */
export function typingErrors(typed: string, name: string): { whole: number; beginning: number } {
  let beforeLast: number[] = [];
  let last = Array.from({ length: name.length + 1 }, (_, j) => j);
  for (let i = 1; i <= typed.length; i++) {
    const row = [i];
    for (let j = 1; j <= name.length; j++) {
      const same = typed[i - 1] === name[j - 1] ? 0 : 1;
      row[j] = Math.min(last[j] + 1, row[j - 1] + 1, last[j - 1] + same);
      const exchanged = i > 1 && j > 1 && typed[i - 1] === name[j - 2] && typed[i - 2] === name[j - 1];
      if (exchanged) row[j] = Math.min(row[j], beforeLast[j - 2] + 1);
    }
    beforeLast = last;
    last = row;
  }
  return { whole: last[name.length], beginning: Math.min(...last) };
}
