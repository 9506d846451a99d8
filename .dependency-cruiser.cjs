/** Who may use whom; see docs/architecture.md. */
module.exports = {
  forbidden: [
    { name: 'no-cycles', severity: 'error', from: {}, to: { circular: true } },
    {
      name: 'core-uses-only-core',
      severity: 'error',
      from: { path: '^core/', pathNot: '(\\.spec|/testing)\\.ts$' },
      to: { pathNot: ['^core/', 'node_modules/(big\\.js|csv-parse|date-fns|rrule|@types/big\\.js)/'] },
    },
    {
      name: 'api-uses-core-and-zod',
      severity: 'error',
      from: { path: '^api/' },
      to: { pathNot: ['^api/', '^core/', 'node_modules/zod/'] },
    },
    { name: 'server-never-web', severity: 'error', from: { path: '^server/' }, to: { path: '^(web|bench|e2e)/' } },
    {
      name: 'nothing-reaches-up',
      comment: 'the demo is laid by the server; bench and tools stand on both',
      severity: 'error',
      from: { path: '^server/' },
      to: { path: '^(demo|tools)/' },
    },
    {
      name: 'sample-for-demo-and-tests',
      severity: 'error',
      from: { path: '^server/', pathNot: ['^server/(sample|testing)/', '\\.spec\\.ts$'] },
      to: { path: '^server/sample/' },
    },
    {
      name: 'demo-uses-no-tools',
      severity: 'error',
      from: { path: '^demo/' },
      to: { path: '^(tools|bench|e2e)/' },
    },
    {
      name: 'web-never-server',
      severity: 'error',
      from: { path: '^web/' },
      to: { path: '^(server|demo|tools|bench|e2e)/' },
    },
    {
      name: 'kit-knows-no-room',
      severity: 'error',
      from: { path: '^web/src/kit/' },
      to: { path: '^web/src/(?!kit/)' },
    },
    {
      name: 'rooms-through-their-index',
      comment: 'another room only through its index.ts, or its tables',
      severity: 'error',
      from: { path: '^server/([^/]+)/', pathNot: ['^server/(http|testing|db)/', '\\.spec\\.ts$'] },
      to: { path: '^server/([^/]+)/', pathNot: ['^server/$1/', '^server/[^/]+/(index|tables)\\.ts$', '^server/db/'] },
    },
    {
      name: 'testing-for-tests',
      severity: 'error',
      from: { path: '^core/', pathNot: '(\\.spec|/testing)\\.ts$' },
      to: { path: '/testing\\.ts$' },
    },
    {
      name: 'core-rooms-through-their-index',
      severity: 'error',
      from: { path: '^core/([^/]+)/' },
      to: { path: '^core/([^/]+)/', pathNot: ['^core/$1/', '^core/[^/]+/(index|testing)\\.ts$'] },
    },
    {
      name: 'web-rooms-through-their-index',
      comment:
        'another room only through its index.ts, or lazy.ts that fetches it later; the frame also through its routes',
      severity: 'error',
      from: { path: '^web/src/([^/]+)/' },
      to: {
        path: '^web/src/([^/]+)/',
        pathNot: ['^web/src/$1/', '^web/src/kit/', '^web/src/[^/]+/(index|lazy|routes)\\.ts$'],
      },
    },
    {
      name: 'routes-only-from-the-frame',
      severity: 'error',
      from: { path: '^web/src/(?!frame/)' },
      to: { path: '^web/src/[^/]+/routes\\.ts$' },
    },
    {
      name: 'known-packages-only',
      severity: 'error',
      from: { path: '^(core|api|server|web)/', pathNot: ['\\.spec\\.ts$', '^server/testing/', '^web/test-setup'] },
      to: { dependencyTypes: ['npm-no-pkg', 'npm-unknown'] },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: ['dist/', '\\.svg$'] },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'require', 'node', 'default', 'types'],
    },
  },
};
