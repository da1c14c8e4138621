// What the contract refuses, as sentences about the field.
import { describe, expect, it } from '@jest/globals';
import type { AnyOperation } from '@meridiem/contract';
import { addRecipe, addRig, editGoal, putGoals, invitePerson, readReview } from '@meridiem/contract';
import { Ajv } from 'ajv';
import addFormats from 'ajv-formats';
import type { Failure } from '../src/plugins/validation-words.ts';
import { validationWords } from '../src/plugins/validation-words.ts';

const ajv = new Ajv({ strict: false });
addFormats.default(ajv);
const words = (operation: AnyOperation, part: 'body' | 'query', value: unknown): string => {
  const validate = ajv.compile(operation[part] as object);
  expect(validate(value)).toBe(false);
  const { field, words: said } = validationWords(validate.errors as Failure[]);
  return `${field} ${said}`;
};
const ID = '00000000-0000-4000-8000-000000000000';

describe('what is refused', () => {
  it.each([
    [editGoal, 'body', { wanted: 3 }, 'version is missing'],
    [editGoal, 'body', { version: 1.5 }, 'version is no whole number'],
    [editGoal, 'body', { version: 0 }, 'version is less than 1'],
    [editGoal, 'body', { version: 1, enabled: 'yes' }, 'enabled is neither true nor false'],
    [editGoal, 'body', { version: 1, why: 'a'.repeat(501) }, 'why is longer than 500 characters'],
    [putGoals, 'body', { panelIds: [], items: [] }, 'panelIds is an empty list'],
    [putGoals, 'body', { panelIds: [ID, 'x'], items: [{ recipeId: ID, wanted: 1 }] }, 'panelIds is no id'],
    [readReview, 'query', { from: '2026-02-30', to: '2026-03-01' }, 'from is no date like 2026-10-11'],
    [readReview, 'query', { from: '0026-02-03', to: '2026-03-01' }, 'from is not written as it should be'],
    [
      invitePerson,
      'body',
      { name: 'Bea', email: 'nobody', role: 'member', timeZone: 'UTC', fitsObserver: null },
      'email is no e-mail address',
    ],
    [addRecipe, 'body', 'a letter', 'null is no object'],
  ] as const)('%#: %s', (operation, part, value, expected) => expect(words(operation, part, value)).toBe(expected));

  it('says how large and how small a rig may be', () => {
    const of = (changes: object): string => {
      const all = (addRig.body as unknown as { required: string[] }).required;
      const rig = Object.fromEntries(all.map((name) => [name, 1]));
      return words(addRig, 'body', {
        ...rig,
        name: 'Wren',
        cameraName: '',
        cameraSerial: 'c',
        sensor: 'mono',
        darkDoublingC: 6,
        obstructionShare: 0.3,
        ...changes,
      });
    };
    expect(of({ name: ' \t' })).toBe('name is empty, or holds characters that no line has');
    expect(of({ focalLengthMm: 40_000 })).toBe('focalLengthMm is more than 30000');
    expect(of({ obstructionShare: 0.9 })).toBe('obstructionShare must be less than 0.9');
    expect(of({ mountKind: 'dobsonian' })).toMatch(/^mountKind is none of german_equatorial, /);
  });

  it('has words even for what nobody has thought of', () => {
    expect(validationWords([])).toEqual({ field: null, words: 'is not valid' });
    expect(validationWords([{ keyword: 'not', instancePath: '/a/b', params: {} }])).toEqual({
      field: 'b',
      words: 'is not valid',
    });
    expect(validationWords([{ keyword: 'format', instancePath: '/a', params: { format: 'new' } }]).words).toBe(
      'is not valid',
    );
  });
});
