import js from '@eslint/js';
import angular from 'angular-eslint';
import prettier from 'eslint-config-prettier';
import globals from 'globals';
import tseslint from 'typescript-eslint';

const boundaries = (patterns) => ({ 'no-restricted-imports': ['error', { patterns }] });

export default tseslint.config(
  {
    ignores: [
      '**/node_modules/',
      '**/dist/',
      'dist-tests/',
      '.angular/',
      '**/.angular/',
      'data/',
      'web/karma.conf.cjs',
    ],
  },
  { files: ['**/*.{ts,mjs,cjs}'], extends: [js.configs.recommended] },
  { files: ['**/*.ts'], extends: [...tseslint.configs.strict] },
  prettier,
  {
    files: ['**/*.ts'],
    rules: {
      '@typescript-eslint/consistent-type-imports': 'error',
      '@typescript-eslint/no-extraneous-class': 'off',
      '@typescript-eslint/no-non-null-assertion': 'error',
      '@typescript-eslint/no-invalid-void-type': 'off',
      eqeqeq: 'error',
    },
  },
  { files: ['**/*.mjs', '**/*.cjs'], languageOptions: { globals: globals.node } },
  {
    // Rules that need types: what is awaited, what is any, what is claimed to be narrower than it is known to be.
    files: ['core/src/**/*.ts', 'server/src/**/*.ts', 'demo/src/**/*.ts', 'reader/src/**/*.ts', 'web/src/**/*.ts'],
    ignores: ['**/*.spec.ts', '**/testing.ts', '**/*.html'],
    languageOptions: {
      parserOptions: { project: 'tsconfig.lint.json' },
    },
    rules: {
      '@typescript-eslint/await-thenable': 'error',
      '@typescript-eslint/no-base-to-string': 'error',
      '@typescript-eslint/no-floating-promises': 'error',
      '@typescript-eslint/no-misused-promises': ['error', { checksVoidReturn: { arguments: false } }],
      '@typescript-eslint/no-unnecessary-type-assertion': 'error',
      '@typescript-eslint/no-unsafe-argument': 'error',
      '@typescript-eslint/no-unsafe-assignment': 'error',
      '@typescript-eslint/no-unsafe-call': 'error',
      '@typescript-eslint/no-unsafe-member-access': 'error',
      '@typescript-eslint/no-unsafe-return': 'error',
      '@typescript-eslint/only-throw-error': 'error',
      '@typescript-eslint/restrict-template-expressions': ['error', { allowNumber: true }],
      '@typescript-eslint/switch-exhaustiveness-check': ['error', { considerDefaultExhaustiveForUnions: true }],
    },
  },
  {
    // Where the rules of the product are, nothing is cast to what it was not shown to be. The interface has to, for what
    // the DOM and the editor's attributes leave untyped.
    files: ['core/src/**/*.ts', 'server/src/**/*.ts'],
    ignores: ['**/*.spec.ts'],
    rules: { '@typescript-eslint/no-unsafe-type-assertion': 'error' },
  },
  {
    // The core computes: it knows no interface, no server, no files and no clock.
    files: ['core/src/**/*.ts'],
    ignores: ['core/src/**/*.spec.ts'],
    rules: {
      ...boundaries([
        {
          group: ['node:*', '@angular/*', 'express', 'pg', '**/server/src/**', '**/web/src/**'],
          message: 'The core depends on nothing around it.',
        },
      ]),
      'no-restricted-globals': ['error', 'fetch', 'process', 'document', 'window', 'setTimeout'],
      'no-restricted-properties': [
        'error',
        { object: 'Date', property: 'now', message: 'The core has no clock.' },
        { object: 'Math', property: 'random', message: 'The core has no randomness.' },
      ],
    },
  },
  {
    files: ['server/**/*.ts'],
    rules: boundaries([{ group: ['**/web/src/**', '@angular/*'], message: 'Nothing depends on web.' }]),
  },
  { files: ['**/*.spec.ts'], rules: { '@typescript-eslint/no-non-null-assertion': 'off' } },
  {
    files: ['web/**/*.ts'],
    extends: [...angular.configs.tsRecommended],
    processor: angular.processInlineTemplates,
    rules: {
      ...boundaries([{ group: ['**/server/**', 'node:*'], message: 'The interface talks to the server over HTTP.' }]),
      '@angular-eslint/directive-selector': ['error', { type: 'attribute', prefix: 'al', style: 'camelCase' }],
      '@angular-eslint/component-selector': ['error', { type: 'element', prefix: 'al', style: 'kebab-case' }],
    },
  },
  {
    files: ['web/**/*.html'],
    extends: [...angular.configs.templateRecommended, ...angular.configs.templateAccessibility],
  },
);
