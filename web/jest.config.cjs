module.exports = {
  displayName: 'web',
  testEnvironment: 'jest-preset-angular/environments/jest-jsdom-env',
  transform: {
    '^.+\\.(ts|mjs|js|html)$': [
      'jest-preset-angular',
      { tsconfig: '<rootDir>/tsconfig.spec.json', stringifyContentPathRegex: '\\.html$' },
    ],
  },
  moduleFileExtensions: ['ts', 'html', 'js', 'json', 'mjs'],
  testMatch: ['<rootDir>/src/**/*.spec.ts'],
  setupFilesAfterEnv: ['<rootDir>/setup-jest.ts'],
  moduleNameMapper: {
    '^(\\.{1,2}/.*)\\.js$': '$1',
    '^@scriptum/core/(.*)$': '<rootDir>/../core/src/$1/index.ts',
  },
  transformIgnorePatterns: ['node_modules/(?!(.*\\.mjs$|nanoid/))'],
};
