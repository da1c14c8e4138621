// A test shot as it is typed, and what came of one in words.
import type { BodyOf, orderTestShot, ShownTestShot } from '@meridiem/contract';
import { LONGEST_TEST_SHOT_SEC } from '@meridiem/contract';
import { formatDeclination, formatRightAscension, parsePosition } from '@meridiem/core';
import { typedNumber } from '../../words/typed.ts';

export interface TestShotTexts {
  readonly raText: string;
  readonly decText: string;
  /** Empty: whichever is in front. */
  readonly filterLetter: string;
  readonly exposureText: string;
  readonly binning: number;
}
export type TestShotField = keyof TestShotTexts;

export const NO_TEST_SHOT: TestShotTexts = {
  raText: '',
  decText: '',
  filterLetter: '',
  exposureText: '10',
  binning: 1,
};

export class FieldProblem extends Error {
  readonly field: TestShotField;
  constructor(field: TestShotField, words: string) {
    super(words);
    this.field = field;
  }
}

/** @param isPhotographed whether a picture is taken; else the telescope is only pointed
 * @throws FieldProblem at the field that can't be read */
export function testShotFrom(texts: TestShotTexts, isPhotographed: boolean): BodyOf<typeof orderTestShot> {
  const at = placeOf(texts);
  if (!isPhotographed && !at) throw new FieldProblem('raText', 'Give the place to point at');
  return {
    at,
    filterLetter: texts.filterLetter === '' ? null : texts.filterLetter,
    binning: texts.binning,
    exposureSec: isPhotographed ? exposureOf(texts) : null,
  };
}

function placeOf({ raText, decText }: TestShotTexts) {
  try {
    return parsePosition(raText, decText);
  } catch (error) {
    throw new FieldProblem(
      /declination/i.test((error as Error).message) ? 'decText' : 'raText',
      (error as Error).message,
    );
  }
}

function exposureOf({ exposureText }: TestShotTexts): number {
  const sec = numberOf(exposureText);
  if (!(sec > 0 && sec <= LONGEST_TEST_SHOT_SEC))
    throw new FieldProblem('exposureText', `More than 0 and at most ${LONGEST_TEST_SHOT_SEC} s`);
  return sec;
}

function numberOf(text: string): number {
  try {
    return typedNumber(text, 'an exposure in seconds');
  } catch (error) {
    throw new FieldProblem('exposureText', (error as Error).message);
  }
}

/** "10 s in L, 2×2, 05h 34m 32.0s, +22° 00′ 52″" */
export function testShotWords({
  exposureSec,
  filterLetter,
  binning,
  at,
}: Pick<ShownTestShot, 'exposureSec' | 'filterLetter' | 'binning' | 'at'>): string {
  const place = at ? `${formatRightAscension(at.raDeg)}, ${formatDeclination(at.decDeg)}` : 'where it points now';
  const filter = filterLetter ? ` in ${filterLetter}` : '';
  return exposureSec === null
    ? `Pointing${filter} at ${place}`
    : `${exposureSec} s${filter}${binning > 1 ? `, ${binning}×${binning}` : ''}, ${place}`;
}

/** What came of it. @param isHeld what has no outcome is only waited for while the night is held */
export function testShotOutcome({ outcome, words }: Pick<ShownTestShot, 'outcome' | 'words'>, isHeld: boolean): string {
  if (outcome === null) return isHeld ? 'under way' : 'not taken: the hold was lifted first';
  return outcome === 'done' ? words! : `refused: ${words}`;
}
