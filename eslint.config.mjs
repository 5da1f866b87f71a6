// What must hold of every source: the strict rules of typescript-eslint with types, and those of angular-eslint for the screens.
import js from '@eslint/js';
import angular from 'angular-eslint';
import { defineConfig, globalIgnores } from 'eslint/config';
import tseslint from 'typescript-eslint';

const tests = [
  '**/*.test.ts',
  '**/*.spec.ts',
  '**/*.page.ts',
  '**/*.fixture.ts',
  '**/testing/**',
  'e2e/**',
  'bench/**',
];
const given = {
  argsIgnorePattern: '^_',
  varsIgnorePattern: '^_',
  destructuredArrayIgnorePattern: '^_',
  ignoreRestSiblings: true,
};

export default defineConfig(
  globalIgnores(['dist', '.angular', 'web', 'demo-data', 'able-sieve-data', 'bench/truth/score.mjs']),
  js.configs.recommended,
  {
    files: ['**/*.ts'],
    extends: [tseslint.configs.strictTypeChecked],
    languageOptions: {
      parserOptions: {
        project: ['tsconfig.json', 'web/tsconfig.app.json', 'web/tsconfig.spec.json'],
        tsconfigRootDir: import.meta.dirname,
      },
    },
    rules: {
      '@typescript-eslint/restrict-template-expressions': ['error', { allowNumber: true, allowBoolean: true }],
      '@typescript-eslint/restrict-plus-operands': ['error', { allowNumberAndString: true }],
      // One line answers and is done: return answer(...).
      '@typescript-eslint/no-confusing-void-expression': 'off',
      '@typescript-eslint/no-unused-vars': ['error', given],
      // Places in lists are not checked by the compiler yet: what is called needless there, or asserted, may be needed.
      '@typescript-eslint/no-unnecessary-condition': 'off',
      '@typescript-eslint/no-non-null-assertion': 'off',
      '@typescript-eslint/no-useless-default-assignment': 'off',
      '@typescript-eslint/no-extraneous-class': ['error', { allowWithDecorator: true }],
      'prefer-const': ['error', { destructuring: 'all' }],
      // The formatter lays lines out so that nothing is read otherwise.
      'no-unexpected-multiline': 'off',
      // What is thrown here is an error: that nothing else is thrown or rejected with is a rule of its own.
      '@typescript-eslint/use-unknown-in-catch-callback-variable': 'off',
      // Texts are taken apart into code points on purpose.
      '@typescript-eslint/no-misused-spread': 'off',
      // A cell that goes into a text is no misfit by then: whoever reads it has said so.
      '@typescript-eslint/no-base-to-string': 'off',
      // Methods handed on are taken with what they belong to.
      '@typescript-eslint/unbound-method': 'off',
      // What an interface promises may be had at once.
      '@typescript-eslint/require-await': 'off',
      // Said where a value is left alone on purpose.
      '@typescript-eslint/no-meaningless-void-operator': 'off',
      // A type may be named for whoever asks: ask<Answer>(...).
      '@typescript-eslint/no-unnecessary-type-parameters': 'off',
      // Patterns speak of control characters where these are what is looked for.
      'no-control-regex': 'off',
    },
  },
  {
    files: ['web/**/*.ts'],
    extends: [angular.configs.tsRecommended],
    processor: angular.processInlineTemplates,
    rules: {
      '@angular-eslint/component-selector': ['error', { type: 'element', prefix: 'sieve', style: 'kebab-case' }],
      // Outputs are named as what was done: close, select.
      '@angular-eslint/no-output-native': 'off',
      '@angular-eslint/directive-selector': ['error', { type: 'attribute', prefix: 'sieve', style: 'camelCase' }],
    },
  },
  {
    files: ['web/**/*.html'],
    extends: [angular.configs.templateRecommended, angular.configs.templateAccessibility],
    rules: {
      '@angular-eslint/template/label-has-associated-control': [
        'error',
        { controlComponents: ['sieve-pick', 'sieve-tick', 'p-select', 'p-multiselect', 'p-checkbox', 'p-radiobutton'] },
      ],
      // Keys are heard on the grid, the list and the line as a whole; axe looks at each screen in the walks.
      '@angular-eslint/template/click-events-have-key-events': 'off',
      '@angular-eslint/template/mouse-events-have-key-events': 'off',
      '@angular-eslint/template/interactive-supports-focus': 'off',
    },
  },
  {
    // What the PDF parser, the parser of commands and the pool hand over has no types of its own.
    files: ['server/pdf/**', 'server/cli.ts', 'server/work/pool.ts', 'server/export/dataset-file.ts'],
    rules: {
      '@typescript-eslint/no-unsafe-assignment': 'off',
      '@typescript-eslint/no-unsafe-member-access': 'off',
      '@typescript-eslint/no-unsafe-argument': 'off',
      '@typescript-eslint/no-unsafe-return': 'off',
      '@typescript-eslint/no-unsafe-class-instance-assignment': 'off',
      '@typescript-eslint/no-unnecessary-type-assertion': 'off',
      '@typescript-eslint/no-explicit-any': 'off',
    },
  },
  {
    files: ['**/*.mjs'],
    languageOptions: {
      globals: Object.fromEntries(
        ['process', 'console', 'URL', 'Buffer', 'fetch', 'setTimeout'].map((name) => [name, 'readonly']),
      ),
    },
  },
  {
    // What a test makes up, or reads back, it knows.
    files: tests,
    rules: {
      '@typescript-eslint/no-unsafe-assignment': 'off',
      '@typescript-eslint/no-unsafe-member-access': 'off',
      '@typescript-eslint/no-unsafe-argument': 'off',
      '@typescript-eslint/no-unsafe-return': 'off',
      '@typescript-eslint/no-unsafe-call': 'off',
      '@typescript-eslint/restrict-plus-operands': 'off',
      '@typescript-eslint/no-dynamic-delete': 'off',
      '@typescript-eslint/await-thenable': 'off',
      '@typescript-eslint/restrict-template-expressions': 'off',
      '@typescript-eslint/no-unnecessary-type-assertion': 'off',
      '@typescript-eslint/require-await': 'off',
      '@typescript-eslint/unbound-method': 'off',
      '@typescript-eslint/no-empty-function': 'off',
      '@typescript-eslint/no-unnecessary-template-expression': 'off',
      '@typescript-eslint/no-extraneous-class': 'off',
      '@typescript-eslint/no-deprecated': 'off',
    },
  },
);
