import js from '@eslint/js';
import hooks from 'eslint-plugin-react-hooks';
import tseslint from 'typescript-eslint';

export default tseslint.config(
  { ignores: ['src/api/types.gen.ts', 'eslint.config.js'] },
  js.configs.recommended,
  tseslint.configs.strictTypeChecked,
  hooks.configs.flat.recommended,
  {
    languageOptions: { parserOptions: { projectService: true } },
    rules: {
      'react-hooks/incompatible-library': 'off', // no React compiler here
      '@typescript-eslint/restrict-template-expressions': ['error', { allowNumber: true }],
      '@typescript-eslint/no-confusing-void-expression': ['error', { ignoreArrowShorthand: true }],
    },
  },
  {
    files: ['public/*.js'], // a worker of the browser, served as it is
    extends: [tseslint.configs.disableTypeChecked],
    languageOptions: {
      parserOptions: { projectService: false },
      globals: Object.fromEntries(
        ['self', 'caches', 'fetch', 'location', 'Headers', 'Response', 'URL', 'setTimeout'].map((g) => [
          g,
          'readonly',
        ]),
      ),
    },
  },
);
