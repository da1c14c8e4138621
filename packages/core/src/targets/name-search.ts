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
  readonly letters: Uint8Array;
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
    return { ...entry, words, joined: words.join(''), letters: lettersOf(words.join('')) };
  });
  return (typed, most) => {
    const words = wordsOfName(typed);
    const joined = words.join('');
    if (joined.length < 2) return [];
    const letters = lettersOf(joined);
    const scored = prepared
      .map((entry) => ({ entry, score: scoreOf(entry, words, joined, letters) }))
      .filter((one): one is { entry: Prepared<T>; score: Score } => one.score !== null)
      .sort((a, b) => a.score[0] - b.score[0] || a.score[1] - b.score[1] || a.score[2] - b.score[2]);
    return [...new Set(scored.map(({ entry }) => entry.item))].slice(0, most);
  };
}

function scoreOf<T>(entry: Prepared<T>, words: readonly string[], joined: string, letters: Uint8Array): Score | null {
  const leftOver = Math.max(0, entry.joined.length - joined.length);
  if (entry.joined === joined) return [0, 0, 0];
  if (entry.joined.startsWith(joined)) return [1, 0, leftOver];
  if (words.every((word) => entry.words.some((own) => own.startsWith(word)))) return [2, 0, leftOver];
  if (joined.length > 2 && entry.joined.includes(joined)) return [3, 0, leftOver];
  const allowed = errorsAllowed(joined.length);
  // Each error brings at most one letter that the name does not have: most names are out before their letters are compared in order.
  if (allowed === 0 || strangeLetters(letters, entry.letters) > allowed) return null;
  const { whole, beginning } = typingErrors(joined, entry.joined, allowed);
  if (whole <= allowed) return [4, whole, leftOver];
  if (beginning <= Math.min(1, allowed)) return [5, beginning, leftOver];
  const byWord =
    words.length === 1 ? Math.min(...entry.words.map((own) => typingErrors(joined, own, allowed).beginning)) : Infinity;
  return byWord <= Math.min(1, allowed) ? [6, byWord, leftOver] : null;
}

/** How often each letter and digit stands in a word, by its code. */
function lettersOf(joined: string): Uint8Array {
  const counts = new Uint8Array(128);
  for (let i = 0; i < joined.length; i++) counts[joined.charCodeAt(i)] += 1;
  return counts;
}

function strangeLetters(typed: Uint8Array, name: Uint8Array): number {
  let strange = 0;
  for (let code = 48; code < 123; code++) if (typed[code] > name[code]) strange += typed[code] - name[code];
  return strange;
}

/** Rows of the comparison, kept from call to call: names are compared by the thousand. */
const ROWS = [new Uint8Array(256), new Uint8Array(256), new Uint8Array(256)];

/** Letters wrong, missing, too many or exchanged with a neighbour, for the whole of a name and for its best beginning.
 * Source: optimal string alignment, Damerau 1964 restricted as by Boytsov 2011.
 * @param limit more errors than this need not be counted: both are then told as more than it
 * @param typed at most 200 letters, as the name */
export function typingErrors(typed: string, name: string, limit = 200): { whole: number; beginning: number } {
  let [beforeLast, last, row] = ROWS;
  const [rows, columns] = [Math.min(200, typed.length), Math.min(200, name.length)];
  for (let j = 0; j <= columns; j++) last[j] = j;
  let least = 0;
  for (let i = 1; i <= rows; i++) {
    row[0] = i;
    least = i;
    const letter = typed.charCodeAt(i - 1);
    for (let j = 1; j <= columns; j++) {
      const own = name.charCodeAt(j - 1);
      let errors = last[j - 1] + (letter === own ? 0 : 1);
      if (last[j] + 1 < errors) errors = last[j] + 1;
      if (row[j - 1] + 1 < errors) errors = row[j - 1] + 1;
      const exchanged = i > 1 && j > 1 && letter === name.charCodeAt(j - 2) && typed.charCodeAt(i - 2) === own;
      if (exchanged && beforeLast[j - 2] + 1 < errors) errors = beforeLast[j - 2] + 1;
      row[j] = errors;
      if (errors < least) least = errors;
    }
    // An exchange looks two rows back, so one row above the limit is not yet the end.
    if (least > limit + 1) return { whole: limit + 1, beginning: limit + 1 };
    [beforeLast, last, row] = [last, row, beforeLast];
  }
  return { whole: last[columns], beginning: rows === 0 ? 0 : least };
}
