// What the contract's validation found, as a sentence about the field.

import { READABLE } from '@meridiem/contract';

/** What Ajv tells of one failure. */
export interface Failure {
  readonly keyword: string;
  readonly instancePath: string;
  readonly params: Readonly<Record<string, unknown>>;
  readonly message?: string;
}

const FORMATS: Readonly<Record<string, string>> = {
  date: 'is no date like 2026-10-11',
  uuid: 'is no id',
  email: 'is no e-mail address',
};
const TYPES: Readonly<Record<string, string>> = {
  number: 'is no number',
  integer: 'is no whole number',
  string: 'is no text',
  boolean: 'is neither true nor false',
  array: 'is no list',
  object: 'is no object',
};

/** The field that is wrong, and what is wrong with it. */
export function validationWords(failures: readonly Failure[]): { field: string | null; words: string } {
  const [first] = failures;
  if (!first) return { field: null, words: 'is not valid' };
  const missing = (first.params.missingProperty ?? first.params.additionalProperty) as string | undefined;
  const path = first.instancePath.split('/').filter((part) => part !== '' && !/^\d+$/.test(part));
  return { field: missing ?? path.at(-1) ?? null, words: wordsOf(first) };
}

function wordsOf({ keyword, params, message }: Failure): string {
  const limit = String(params.limit);
  switch (keyword) {
    case 'required':
      return 'is missing';
    case 'additionalProperties':
      return 'is not known here';
    case 'format':
      return FORMATS[params.format as string] ?? 'is not valid';
    case 'type':
      return TYPES[params.type as string] ?? 'is not valid';
    case 'enum':
      return `is none of ${(params.allowedValues as unknown[]).join(', ')}`;
    case 'minLength':
      return 'is empty';
    case 'maxLength':
      return `is longer than ${limit} characters`;
    case 'minimum':
      return `is less than ${limit}`;
    case 'maximum':
      return `is more than ${limit}`;
    case 'exclusiveMinimum':
      return `must be more than ${limit}`;
    case 'exclusiveMaximum':
      return `must be less than ${limit}`;
    case 'minItems':
      return limit === '1' ? 'is an empty list' : `has fewer than ${limit} entries`;
    case 'maxItems':
      return `has more than ${limit} entries`;
    case 'pattern':
      return params.pattern === READABLE
        ? 'is empty, or holds characters that no line has'
        : 'is not written as it should be';
    default:
      return message ?? 'is not valid';
  }
}
