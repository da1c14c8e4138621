// Coordinates as typed.
import { CoreError, parsePosition } from '@meridiem/core';
import { refused } from '../../errors.ts';

/** Both coordinates or neither, each refused at its own field. */
export function readPosition(raText: string, decText: string) {
  try {
    return parsePosition(raText, decText);
  } catch (error) {
    if (!(error instanceof CoreError)) throw error;
    const aboutDec = error.message.includes('eclination');
    throw refused(aboutDec ? 'decText' : 'raText', error.message);
  }
}
