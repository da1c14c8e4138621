import reactHooks from 'eslint-plugin-react-hooks';
import tseslint from 'typescript-eslint';
import { MAY_HOLD_STATEMENTS, noStatements } from './eslint.statements.js';

const noClock = [
  {
    selector: "CallExpression[callee.object.name='Date'][callee.property.name='now']",
    message: 'The clock is passed in.',
  },
  { selector: "NewExpression[callee.name='Date'][arguments.length=0]", message: 'The clock is passed in.' },
  {
    selector: "CallExpression[callee.object.name='Math'][callee.property.name='random']",
    message: 'Pass a seeded generator in.',
  },
];

export default tseslint.config(
  { ignores: ['**/node_modules', '**/dist', '.meridiem', 'test-results', 'playwright-report', '**/*.cjs'] },
  ...tseslint.configs.recommended,
  {
    rules: {
      '@typescript-eslint/no-explicit-any': 'error',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/consistent-type-imports': 'error',
      eqeqeq: ['error', 'always', { null: 'ignore' }],
    },
  },
  {
    files: ['packages/core/src/**/*.ts'],
    rules: {
      'no-restricted-globals': [
        'error',
        'process',
        'fetch',
        'window',
        'document',
        'setTimeout',
        'setInterval',
        'console',
      ],
      'no-restricted-syntax': ['error', ...noClock],
      'no-restricted-imports': ['error', { patterns: ['node:*', 'react*', 'fastify*', 'sequelize*', '@meridiem/*'] }],
    },
  },
  {
    files: ['packages/core/src/**/*.test.ts'],
    rules: { 'no-restricted-imports': 'off', 'no-restricted-globals': 'off' },
  },
  {
    files: ['packages/server/src/**/*.ts', 'demo/**/*.ts'],
    ignores: MAY_HOLD_STATEMENTS,
    rules: { 'no-restricted-syntax': ['error', ...noStatements] },
  },
  {
    files: ['packages/web/src/**/*.{ts,tsx}'],
    plugins: { 'react-hooks': reactHooks },
    rules: reactHooks.configs.recommended.rules,
  },
);
