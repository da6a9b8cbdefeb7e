const swc = [
  '@swc/jest',
  { jsc: { parser: { syntax: 'typescript', decorators: true }, target: 'es2022' }, module: { type: 'es6' } },
];
const node = { testEnvironment: 'node', extensionsToTreatAsEsm: ['.ts'], transform: { '^.+\\.ts$': swc } };

export default {
  projects: [
    {
      ...node,
      displayName: 'core',
      testMatch: ['<rootDir>/core/src/**/*.spec.ts'],
      setupFiles: ['<rootDir>/core/test/seed.mjs'],
      moduleNameMapper: { '^(\\.{1,2}/.*)\\.js$': '$1' },
    },
    {
      ...node,
      displayName: 'server',
      // Against the built server: its typesetters run in threads of their own.
      testMatch: ['<rootDir>/server/test/**/*.spec.ts', '<rootDir>/tools/test/**/*.spec.ts'],
      moduleNameMapper: { '^(\\.{1,2}/.*)\\.js$': '$1' },
      globalSetup: '<rootDir>/server/test/testing/start-database.mjs',
      globalTeardown: '<rootDir>/server/test/testing/stop-database.mjs',
      modulePathIgnorePatterns: ['<rootDir>/web/dist'],
    },
    '<rootDir>/web/jest.config.cjs',
  ],
};
