import js from '@eslint/js';
import angular from 'angular-eslint';
import tseslint from 'typescript-eslint';

export default tseslint.config(
  { ignores: ['**/node_modules', '**/dist', '.data', '.cache', '**/.mutants.mjs', '**/.angular'] },
  js.configs.recommended,
  {
    files: ['**/*.ts'],
    extends: [...tseslint.configs.recommendedTypeChecked],
    languageOptions: { parserOptions: { project: ['tsconfig.lint.json'], tsconfigRootDir: import.meta.dirname } },
    rules: {
      '@typescript-eslint/consistent-type-imports': 'error',
      '@typescript-eslint/explicit-module-boundary-types': 'off',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/switch-exhaustiveness-check': 'error',
      '@typescript-eslint/restrict-template-expressions': ['error', { allowNumber: true }],
      eqeqeq: 'error',
      'no-console': ['error', { allow: ['error', 'log'] }],
    },
  },
  {
    files: ['packages/web/src/**/*.ts'],
    extends: [...angular.configs.tsRecommended],
    processor: angular.processInlineTemplates,
    rules: { '@angular-eslint/component-selector': ['error', { type: 'element', prefix: 'km', style: 'kebab-case' }] },
  },
  { files: ['packages/web/src/**/*.html'], extends: [...angular.configs.templateRecommended, ...angular.configs.templateAccessibility] },
  {
    files: ['**/*.{mjs,cjs}'],
    languageOptions: {
      globals: {
        process: 'readonly',
        console: 'readonly',
        performance: 'readonly',
        setTimeout: 'readonly',
        clearTimeout: 'readonly',
        setInterval: 'readonly',
        clearInterval: 'readonly',
        URL: 'readonly',
        fetch: 'readonly',
        require: 'readonly',
        module: 'writable',
      },
    },
  },
  {
    files: ['scripts/test/*.mjs'],
    languageOptions: {
      globals: Object.fromEntries(
        ['describe', 'it', 'expect', 'expectAsync', 'beforeAll', 'afterAll', 'beforeEach', 'afterEach'].map((name) => [name, 'readonly']),
      ),
    },
  },
  // A variant's parameters are told their type where they stand: inference alone would make plain strings of them.
  { files: ['packages/core/src/methods/**/*.ts'], rules: { '@typescript-eslint/no-unnecessary-type-assertion': 'off' } },
  // Core knows nobody: no Node, no DOM, no clock.
  {
    files: ['packages/core/src/**/*.ts'],
    rules: {
      'no-restricted-imports': ['error', { patterns: ['node:*', '@keen-mortar/*', '@angular/*'] }],
      'no-restricted-globals': ['error', 'process', 'window', 'document', 'localStorage', 'fetch', 'setTimeout', 'performance'],
      'no-restricted-properties': ['error', { object: 'Date', property: 'now', message: 'time enters core as an argument' }],
    },
  },
);
