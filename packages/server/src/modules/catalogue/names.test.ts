import { describe, expect, it } from '@jest/globals';
import { nameSearch, seededRandom, wordsOfName } from '@meridiem/core';
import { loadCatalogue } from './service.ts';

const { named } = loadCatalogue();
const find = nameSearch(named.map(({ name, object }) => ({ name, item: object })));
const random = seededRandom(524);
const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)];

/** One letter dropped, doubled, replaced or exchanged with its neighbour. */
function mistyped(text: string): string {
  const at = 1 + Math.floor(random() * (text.length - 2));
  const letter = 'abcdefghijklmnopqrstuvwxyz'[Math.floor(26 * random())];
  return pick([
    text.slice(0, at) + text.slice(at + 1),
    text.slice(0, at) + text[at] + text.slice(at),
    text.slice(0, at) + letter + text.slice(at + 1),
    text.slice(0, at) + text[at + 1] + text[at] + text.slice(at + 2),
  ]);
}

/** Several objects carry some names: any of them is right. */
const isRight = (found: readonly { name: string | null }[], name: string): boolean =>
  found
    .slice(0, 3)
    .some((object) => object.name !== null && wordsOfName(object.name).join() === wordsOfName(name).join());

describe('everyday names of the shipped catalogue', () => {
  it('with one typing error stand among the first three, 98 times of 100 or more', () => {
    const long = named.filter(({ name }) => wordsOfName(name).join('').length >= 6);
    let right = 0;
    const wrong: string[] = [];
    for (let i = 0; i < 2000; i++) {
      const { name } = pick(long);
      const typed = mistyped(random() < 0.5 ? name.toLowerCase() : name);
      if (isRight(find(typed, 3), name)) right += 1;
      else wrong.push(`${typed} for ${name}`);
    }
    // What was missed is shown where the share is not reached.
    expect(right / 2000 >= 0.98 ? [] : wrong).toEqual([]);
  });

  it('typed whole, in any case and spacing, stand among the first three always', () => {
    for (const { name } of named.filter((_, i) => i % 4 === 0))
      for (const typed of [name, name.toUpperCase(), name.replaceAll(' ', ''), `  ${name.replaceAll(' ', '  ')} `])
        expect([typed, isRight(find(typed, 3), name)]).toEqual([typed, true]);
  });
});
