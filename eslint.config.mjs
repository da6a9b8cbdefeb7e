import js from '@eslint/js';
import angular from 'angular-eslint';
import prettier from 'eslint-config-prettier';
import globals from 'globals';
import tseslint from 'typescript-eslint';

/** Imports only point downwards: web and server stand on core, tools and e2e on all, core on nothing. */
const floor = (...groups) => ({
  'no-restricted-imports': [
    'error',
    {
      patterns: groups.map((group) => ({
        group,
        message: 'Imports only point downwards (docs/architecture.md).',
      })),
    },
  ],
});
const NODE = ['node:*'];

export default tseslint.config(
  { ignores: ['**/dist/', '**/node_modules/', '.scriptum/', 'test-results/', 'web/.angular/'] },
  {
    files: ['**/*.{ts,mjs,cjs,js}'],
    extends: [js.configs.recommended, ...tseslint.configs.recommended, ...tseslint.configs.stylistic],
  },
  {
    files: ['**/*.{ts,mjs,cjs,js}'],
    rules: {
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/consistent-type-imports': ['error', { fixStyle: 'inline-type-imports' }],
      '@typescript-eslint/consistent-indexed-object-style': 'off',
      eqeqeq: ['error', 'always', { null: 'ignore' }],
    },
  },
  { files: ['**/*.mjs', '**/*.cjs'], languageOptions: { globals: { ...globals.node } } },
  { files: ['**/*.cjs'], rules: { '@typescript-eslint/no-require-imports': 'off' } },
  {
    files: ['core/src/**/*.ts'],
    ignores: ['core/src/**/*.spec.ts'],
    rules: {
      ...floor(NODE, ['@angular/*', '@ngrx/*', 'express', 'typeorm', '@scriptum/*']),
      'no-restricted-globals': [
        'error',
        'window',
        'document',
        'process',
        'Buffer',
        'require',
        'fetch',
        'localStorage',
        'XMLHttpRequest',
      ],
      'no-restricted-properties': [
        'error',
        { object: 'Math', property: 'random' },
        { object: 'Date', property: 'now' },
      ],
    },
  },
  {
    files: ['server/src/**/*.ts'],
    rules: floor(['@angular/*', '@ngrx/*', '@scriptum/web', '@scriptum/tools', '@scriptum/tools/*']),
  },
  {
    files: ['web/src/**/*.ts'],
    extends: [...angular.configs.tsRecommended],
    processor: angular.processInlineTemplates,
    rules: {
      ...floor(NODE, ['@scriptum/server', '@scriptum/server/*', '@scriptum/tools/*', 'typeorm', 'express']),
      '@angular-eslint/component-class-suffix': 'off',
      '@angular-eslint/component-selector': ['error', { type: 'element', prefix: 'sc', style: 'kebab-case' }],
    },
  },
  {
    files: ['web/src/**/*.html'],
    extends: [...angular.configs.templateRecommended, ...angular.configs.templateAccessibility],
    rules: {
      // The strip's and the tables' lines are picked by key in the strip itself (arrow keys, F8, F9).
      '@angular-eslint/template/click-events-have-key-events': 'off',
      '@angular-eslint/template/interactive-supports-focus': 'off',
    },
  },
  prettier,
);
