// Statement text belongs in migrations and repositories; the two files beside them carry migrations out.
export const MAY_HOLD_STATEMENTS = [
  '**/*repository.ts',
  'packages/server/src/database/migrations/**',
  'packages/server/src/database/migrate.ts',
  'packages/server/src/database/queues.ts',
  '**/*.test.ts',
];

const TEXT =
  '/(^|[^A-Za-z])(SELECT\\s|INSERT INTO\\s|UPDATE\\s+[a-z_]+\\s+SET\\s|DELETE FROM\\s|WITH\\s+[a-z_]+\\s+AS\\s)/';
const message = 'Statement text stands in migrations and repositories; elsewhere rows go through models.';

export const noStatements = [
  { selector: `Literal[value=${TEXT}]`, message },
  { selector: `TemplateElement[value.raw=${TEXT}]`, message },
];
