import vue from 'eslint-plugin-vue'
import ts from 'typescript-eslint'

export default ts.config(
  { ignores: ['**/dist/', 'test-results/', 'playwright-report/', 'docs/'] },
  ...ts.configs.strict,
  ...vue.configs['flat/recommended'],
  {
    files: ['**/*.vue'],
    languageOptions: { parserOptions: { parser: ts.parser } },
  },
  {
    rules: { '@typescript-eslint/no-shadow': ['error', { builtinGlobals: false }] },
  },
  {
    // rules that need types: of what ships, for the type checker takes its time
    files: ['{core,server,web,cli}/src/**/*.ts'],
    ignores: ['**/*.test.ts', '**/tests/**'],
    languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } },
    rules: {
      '@typescript-eslint/no-floating-promises': 'error',
      '@typescript-eslint/no-misused-promises': 'error',
      '@typescript-eslint/await-thenable': 'error',
      '@typescript-eslint/switch-exhaustiveness-check': [
        'error',
        { considerDefaultExhaustiveForUnions: true },
      ],
      '@typescript-eslint/no-unnecessary-type-assertion': 'error',
      '@typescript-eslint/only-throw-error': 'error',
    },
  },
  {
    rules: {
      '@typescript-eslint/no-non-null-assertion': 'off',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      'vue/html-self-closing': 'off',
      'vue/max-attributes-per-line': 'off',
      'vue/singleline-html-element-content-newline': 'off',
      'vue/multiline-html-element-content-newline': 'off',
      'vue/html-indent': 'off',
      'vue/html-closing-bracket-newline': 'off',
      'vue/require-default-prop': 'off',
      'vue/attributes-order': 'off',
      'vue/html-closing-bracket-spacing': 'off',
    },
  },
  {
    files: ['{core,server,web,cli}/src/**/*.{ts,vue}'],
    ignores: ['**/*.test.ts', '**/tests/**'],
    rules: {
      // what is found by its place in a list is there; what is looked up or may be left out is not: docs/decisions/6
      'no-restricted-syntax': [
        'error',
        {
          selector:
            'TSNonNullExpression > :matches(CallExpression, AwaitExpression, MemberExpression[computed=false])',
          message: 'Use known() with what would be missing, or treat the case that it is.',
        },
      ],
    },
  },
  {
    files: ['**/*.test.ts'],
    rules: {
      '@typescript-eslint/no-explicit-any': 'off',
      '@typescript-eslint/no-dynamic-delete': 'off',
    },
  },
)
