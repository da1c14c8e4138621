/** The house's one-way streets: web → contract → core; server → contract → core; runner → contract, devices → core; simulator → core. */
const only = (name, from, to, comment) => ({ name, comment, severity: 'error', from, to });
module.exports = {
  forbidden: [
    only(
      'no-run-time-cycle',
      {},
      { circular: true, viaOnly: { dependencyTypesNot: ['type-only'] } },
      'No import cycle at run time.',
    ),
    only(
      'core-knows-nobody',
      { path: '^packages/core/src', pathNot: '\\.test\\.ts$' },
      { path: '^packages/(?!core/)' },
      'Core imports nothing of ours.',
    ),
    only(
      'core-is-pure',
      { path: '^packages/core/src', pathNot: '\\.test\\.ts$' },
      { dependencyTypes: ['core'] },
      'Core does no I/O.',
    ),
    only('contract-to-core', { path: '^packages/contract/' }, { path: '^packages/(?!core/|contract/)' }, ''),
    only(
      'server-down',
      { path: '^packages/server/', pathNot: '^packages/server/test/|\\.test\\.ts$' },
      { path: '^packages/(?!core/|contract/|server/)' },
      '',
    ),
    only(
      'runner-down',
      { path: '^packages/runner/src/', pathNot: '\\.test\\.ts$' },
      { path: '^packages/(?!core/|contract/|devices/|runner/)' },
      '',
    ),
    only('devices-to-core', { path: '^packages/devices/' }, { path: '^packages/(?!core/|devices/)' }, ''),
    only('simulator-down', { path: '^packages/simulator/' }, { path: '^packages/(?!core/|simulator/)' }, ''),
    only('web-down', { path: '^packages/web/' }, { path: '^packages/(?!core/|contract/|web/)' }, ''),
    only(
      'features-not-sideways',
      { path: '^packages/web/src/features/([^/]+)/' },
      { path: '^packages/web/src/features/(?!$1/)' },
      '',
    ),
    only(
      'modules-through-index',
      { path: '^packages/server/src/modules/([^/]+)/', pathNot: '\\.test\\.ts$' },
      { path: '^packages/server/src/modules/(?!$1/)[^/]+/(?!index\\.ts$)' },
      '',
    ),
    only(
      'checker-apart',
      { path: '^packages/core/src/planning/checker/', pathNot: '\\.test\\.ts$' },
      {
        path: '^packages/core/src/(planning|limits|exposure)/',
        pathNot: '^packages/core/src/planning/(checker/|problem\\.ts$|season/season-problem\\.ts$)',
      },
      'The checker shares no code with the planner.',
    ),
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '(^|/)dist/' },
    tsPreCompilationDeps: 'specify',
    tsConfig: { fileName: 'tsconfig.json' },
    enhancedResolveOptions: {
      conditionNames: ['@meridiem/source', 'import', 'node', 'default'],
      exportsFields: ['exports'],
    },
  },
};
