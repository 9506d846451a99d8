const swc = [
  '@swc/jest',
  { jsc: { target: 'es2022', parser: { syntax: 'typescript', decorators: true } }, module: { type: 'commonjs' } },
];
const paths = {
  '^@core/(.*)$': '<rootDir>/core/$1/index.ts',
  '^@api/(.*)$': ['<rootDir>/api/$1.ts', '<rootDir>/api/$1/index.ts'],
};

/** Three projects: the computation alone, the server on a real database, the web's own logic. */
export default {
  // Two cores: the database works while the tests wait for it.
  maxWorkers: 2,
  projects: [
    {
      displayName: 'core',
      rootDir: import.meta.dirname,
      testMatch: ['<rootDir>/core/**/*.spec.ts', '<rootDir>/api/**/*.spec.ts', '<rootDir>/demo/**/*.spec.ts'],
      transform: { '^.+\\.[tj]s$': swc },
      moduleNameMapper: paths,
      transformIgnorePatterns: ['/node_modules/(?!(csv-parse|p-limit|yocto-queue)/)'],
    },
    {
      displayName: 'server',
      rootDir: import.meta.dirname,
      testMatch: ['<rootDir>/server/**/*.spec.ts', '<rootDir>/tools/**/*.spec.ts'],
      setupFilesAfterEnv: ['<rootDir>/server/testing/watch-rows.ts'],
      transform: { '^.+\\.[tj]s$': swc },
      moduleNameMapper: paths,
      transformIgnorePatterns: [
        '/node_modules/(?!(@koa|koa-.*|p-limit|yocto-queue|rate-limiter-flexible|csv-parse|read-excel-file|write-excel-file|saxen|unzipper-esm|worker-f)/)',
      ],
    },
    {
      displayName: 'web',
      rootDir: import.meta.dirname,
      testMatch: ['<rootDir>/web/**/*.spec.ts'],
      transform: {
        '^.+\\.(ts|mjs|js|html|svg)$': [
          'jest-preset-angular',
          { tsconfig: '<rootDir>/web/tsconfig.spec.json', stringifyContentPathRegex: '\\.(html|svg)$' },
        ],
      },
      testEnvironment: 'jest-preset-angular/environments/jest-jsdom-env',
      setupFilesAfterEnv: ['<rootDir>/web/test-setup.ts'],
      transformIgnorePatterns: [
        'node_modules/(?!.*\\.mjs$|@angular/common/locales/.*\\.js$|@material-symbols/|csv-parse/)',
      ],
      moduleNameMapper: { ...paths, '\\.scss$': '<rootDir>/web/empty-style.ts' },
    },
  ],
};
