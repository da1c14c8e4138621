const project = (name, roots, extra = {}) => ({
  displayName: name,
  roots,
  testEnvironment: 'node',
  setupFiles: ['<rootDir>/scripts/property-seed.js'],
  testMatch: ['**/*.test.ts'],
  extensionsToTreatAsEsm: ['.ts', '.tsx'],
  transform: {
    '^.+\\.(tsx?|js)$': [
      '<rootDir>/scripts/jest-transform.js',
      { jsc: { parser: { syntax: 'typescript', tsx: false }, target: 'es2022' }, module: { type: 'es6' } },
    ],
  },
  // Of the packages only the one whose inner loops count goes through it.
  transformIgnorePatterns: ['/node_modules/(?!astronomy-engine/)'],
  testEnvironmentOptions: { customExportConditions: ['@meridiem/source', 'node', 'node-addons'] },
  ...extra,
});

const TIMED = ['/test/attacks/stalls.test.ts', '/test/jobs.test.ts', '/test/at-once.test.ts'];

export default {
  // Two cores: one process each, the database beside them.
  maxWorkers: 2,
  // A busy machine of two cores plans a night in seconds, not in the runner's own five.
  testTimeout: 60_000,
  projects: [
    project('core', ['<rootDir>/packages/core']),
    project('contract', ['<rootDir>/packages/contract']),
    project('runner', ['<rootDir>/packages/devices', '<rootDir>/packages/runner', '<rootDir>/packages/simulator']),
    project('web', ['<rootDir>/packages/web']),
    project('demo', ['<rootDir>/demo']),
    project('server', ['<rootDir>/packages/server'], { testPathIgnorePatterns: ['/node_modules/', ...TIMED] }),
    // What is held to the clock has the machine to itself.
    project('timed', ['<rootDir>/packages/server'], { testMatch: TIMED.map((name) => `**${name}`) }),
  ],
};
