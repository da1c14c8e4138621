import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { CoreError } from '../errors.ts';
import { cardOf, readFitsHeaders } from './fits-header.ts';
import { frameFacts } from './frame-facts.ts';

const encode = (text: string): Uint8Array => Uint8Array.from(text, (letter) => letter.charCodeAt(0) & 255);
const headerOf = (cards: readonly string[]): Uint8Array => {
  const text = ['SIMPLE  =                    T', ...cards, 'END'].map((card) => card.padEnd(80).slice(0, 80)).join('');
  return encode(text.padEnd(Math.ceil(text.length / 2880) * 2880));
};
const IMAGE = ['BITPIX  =                    8', 'NAXIS   =                    2', 'NAXIS1  = 1', 'NAXIS2  = 1'];

describe('any bytes', () => {
  it('are read or refused in words, never anything else', () =>
    fc.assert(
      fc.property(fc.array(fc.string({ unit: 'binary-ascii', maxLength: 80 }), { maxLength: 40 }), (cards) => {
        try {
          const headers = readFitsHeaders(headerOf([...IMAGE, ...cards]));
          frameFacts(headers, { timeZone: 'Australia/Adelaide' });
        } catch (error) {
          expect(error).toBeInstanceOf(CoreError);
        }
      }),
      { numRuns: 300 },
    ));

  it('give words that can be kept: no letter that is none', () =>
    fc.assert(
      fc.property(fc.string({ unit: 'binary-ascii', maxLength: 40 }), (text) => {
        const cards = [`OBJECT  = '${text.replaceAll("'", "''")}'`, `FILTER  = '${text.replaceAll("'", "''")}'`];
        const facts = frameFacts(readFitsHeaders(headerOf([...IMAGE, ...cards])), { timeZone: 'UTC' })!;
        for (const words of [facts.objectName, facts.filterName, ...facts.doubts])
          expect(words ?? '').not.toMatch(/[\x00-\x1f]/);
      }),
    ));

  it('that lie about their size are refused or marked, without reading past the end', () =>
    fc.assert(
      fc.property(fc.integer({ min: -5, max: 2_000_000_000 }), fc.integer({ min: -5, max: 2_000_000_000 }), (a, b) => {
        const cards = ['BITPIX  = 16', 'NAXIS   = 2', `NAXIS1  = ${a}`, `NAXIS2  = ${b}`];
        const { units } = readFitsHeaders(headerOf(cards));
        for (const { dataStart, dataPresent } of units) {
          expect(dataPresent).toBeGreaterThanOrEqual(0);
          expect(dataStart + dataPresent).toBeLessThanOrEqual(Math.max(2880, dataStart));
        }
      }),
    ));
});

describe('card values', () => {
  const value = (card: string) => cardOf(readFitsHeaders(headerOf([...IMAGE, card])).units[0].cards, 'KEY')?.value;
  it.each([
    [`KEY     = 'it''s quoted'  / note`, `it's quoted`],
    [`KEY     = 'trailing   '`, 'trailing'],
    ['KEY     =                    T / true', true],
    ['KEY     =                 1.5D3', 1500],
    ['KEY     =                  -0.5 / negative', -0.5],
    ['KEY     =                      / nothing', null],
    [`KEY     = 'a / slash' / note`, 'a / slash'],
  ])('%s', (card, expected) => expect(value(card)).toBe(expected));

  it('are numbers whatever number is written', () =>
    fc.assert(
      fc.property(fc.double({ noNaN: true, noDefaultInfinity: true }), (number) => {
        // Written, a negative zero has lost its sign.
        expect(value(`KEY     = ${String(number)}`)).toBe(number + 0);
      }),
    ));
});

describe('a header made to be slow', () => {
  const card = (text: string): string => text.padEnd(80);
  const file = (...cards: string[]): Uint8Array =>
    new TextEncoder().encode([...cards.map(card), card('END')].join('').padEnd(2880));
  it.each([
    ['axes without end', 'NAXIS   =           1000000000'],
    ['half an axis', 'NAXIS   =                  1.5'],
    ['axes beyond the standard', 'NAXIS   =                 1000'],
  ])('with %s is refused at once', (_, axes) => {
    const started = performance.now();
    expect(() =>
      readFitsHeaders(file('SIMPLE  =                    T', 'BITPIX  =                   16', axes)),
    ).toThrow(/NAXIS/);
    expect(performance.now() - started).toBeLessThan(100);
  });
  it('with more cards than any writer makes is refused before they are read', () => {
    const cards = Array.from({ length: 20_100 }, (_, i) => `C${i}      =                    1`.slice(0, 30));
    expect(() => readFitsHeaders(headerOf(cards))).toThrow(/more than 20000 cards/);
  });
  it('that announces more than any file can hold is marked as cut off', () => {
    const huge = ['NAXIS   =                    2', 'NAXIS1  =  9007199254740991', 'NAXIS2  =  9007199254740991'];
    const { doubts } = readFitsHeaders(
      file('SIMPLE  =                    T', 'BITPIX  =                   16', ...huge),
    );
    expect(doubts.join()).toMatch(/shorter than announced/);
  });
});
