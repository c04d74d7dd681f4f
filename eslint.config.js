import js from '@eslint/js';
import prettier from 'eslint-config-prettier';
import vue from 'eslint-plugin-vue';
import ts from 'typescript-eslint';

export default ts.config(
  { ignores: ['**/dist/**', '**/built/**', 'node_modules/**', '.data/**'] },
  js.configs.recommended,
  {
    files: ['**/*.ts', '**/*.vue'],
    extends: [...ts.configs.strictTypeChecked, ...vue.configs['flat/recommended']],
    languageOptions: {
      parserOptions: {
        project: './tsconfig.json',
        extraFileExtensions: ['.vue'],
        parser: ts.parser,
      },
    },
    rules: {
      // The checker of types does this better.
      'no-undef': 'off',
      'no-control-regex': 'off',
      '@typescript-eslint/consistent-type-imports': 'error',
      // An index that the code has just made sure of.
      '@typescript-eslint/no-non-null-assertion': 'off',
      '@typescript-eslint/restrict-template-expressions': [
        'error',
        { allowNumber: true, allowNullish: true },
      ],
      '@typescript-eslint/no-confusing-void-expression': 'off',
      '@typescript-eslint/no-misused-promises': [
        'error',
        { checksVoidReturn: { arguments: false, attributes: false, properties: false } },
      ],
      '@typescript-eslint/require-await': 'off',
      '@typescript-eslint/no-invalid-void-type': 'off',
      '@typescript-eslint/no-unused-vars': [
        'error',
        { argsIgnorePattern: '^_', varsIgnorePattern: '^_' },
      ],
      '@typescript-eslint/no-unnecessary-condition': 'off',
      '@typescript-eslint/unbound-method': 'off',
      // Says at a place that a promise or value is left on purpose.
      '@typescript-eslint/no-meaningless-void-operator': 'off',
      '@typescript-eslint/no-dynamic-delete': 'off',
      'vue/multi-word-component-names': 'off',
      'vue/require-default-prop': 'off',
    },
  },
  {
    rules: {
      'max-lines-per-function': ['error', 80],
      'max-params': ['error', 4],
    },
  },
  // What a matcher of the test runner gives has no type.
  { files: ['**/*.test.ts'], rules: { '@typescript-eslint/no-unsafe-assignment': 'off' } },
  // Playwright reads from the pattern which fixtures a fixture needs; some need none.
  {
    files: ['e2e/**/*.ts'],
    rules: { 'no-empty-pattern': ['error', { allowObjectPatternsAsParameters: true }] },
  },
  {
    files: ['**/*.cjs'],
    languageOptions: {
      globals: { require: 'readonly', module: 'writable', __dirname: 'readonly' },
    },
  },
  {
    files: ['**/*.mjs'],
    languageOptions: {
      globals: {
        process: 'readonly',
        console: 'readonly',
        URL: 'readonly',
        setTimeout: 'readonly',
        clearTimeout: 'readonly',
        Buffer: 'readonly',
        performance: 'readonly',
        fetch: 'readonly',
        FormData: 'readonly',
      },
    },
  },
  prettier,
);
