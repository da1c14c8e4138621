import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { nameSearch, typingErrors, wordsOfName } from './name-search.ts';

const NAMES = [
  'Horsehead Nebula',
  'Cocoon Nebula',
  "Parrot's Head Nebula",
  'α Persei Cluster',
  'Hyades',
  'Coma Cluster',
  'Coma Star Cluster',
];
const find = nameSearch(NAMES.map((name) => ({ name, item: name })));

describe('names as people type them', () => {
  it.each([
    ['horsehead', 'Horsehead Nebula'],
    ['HORSE HEAD neb', 'Horsehead Nebula'],
    ['cocoon', 'Cocoon Nebula'],
    ['coccon', 'Cocoon Nebula'],
    ['parrots head', "Parrot's Head Nebula"],
    ['parrot’s', "Parrot's Head Nebula"],
    ['alpha per', 'α Persei Cluster'],
    ['hydaes', 'Hyades'],
    ['hyads', 'Hyades'],
    ['coma cluster', 'Coma Cluster'],
    ['star coma', 'Coma Star Cluster'],
    ['horsehaed nebula', 'Horsehead Nebula'],
  ])('%s finds %s', (typed, name) => expect(find(typed, 3)[0]).toBe(name));

  it('finds nothing where nothing is like it', () => {
    expect(find('zzzzzz', 5)).toEqual([]);
    expect(find('', 5)).toEqual([]);
    expect(find('h', 5)).toEqual([]);
  });

  it('spells Greek letters out and drops accents', () => {
    expect(wordsOfName("η Car's Höhle")).toEqual(['eta', 'cars', 'hohle']);
  });
});

describe('typing errors', () => {
  it('are counted the same both ways, and none for the same word', () => {
    const word = fc.string({ unit: fc.constantFrom('a', 'b', 'c'), maxLength: 7 });
    fc.assert(
      fc.property(word, word, (a, b) => {
        expect(typingErrors(a, b).whole).toBe(typingErrors(b, a).whole);
        expect(typingErrors(a, a).whole).toBe(0);
        expect(typingErrors(a, a + b).beginning).toBe(0);
      }),
    );
  });
  it.each([
    ['kitten', 'sitten', 1],
    ['abcd', 'acbd', 1],
    ['abcd', 'abd', 1],
    ['abcd', 'abxcd', 1],
    ['abcd', 'dcba', 3],
  ])('%s for %s: %d', (typed, name, errors) => expect(typingErrors(typed, name).whole).toBe(errors));
});
