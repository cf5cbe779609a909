import tseslint from 'typescript-eslint';
import reactHooks from 'eslint-plugin-react-hooks';
import astro from 'eslint-plugin-astro';

export default tseslint.config(
  { ignores: ['**/dist/**', '**/.astro/**', '**/migrations/**', 'coverage/**', '**/var/**'] },
  ...tseslint.configs.recommended,
  ...astro.configs.recommended,
  {
    files: ['web/src/**/*.{ts,tsx}'],
    plugins: { 'react-hooks': reactHooks },
    rules: { 'react-hooks/rules-of-hooks': 'error', 'react-hooks/exhaustive-deps': 'error' },
  },
  {
    rules: {
      '@typescript-eslint/no-explicit-any': 'error',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      'no-console': 'error',
      eqeqeq: 'error',
    },
  },
  {
    files: ['scripts/**', 'core/bench/**', 'web/bench/**', 'web/src/demo/**', 'web/*.mjs'],
    rules: { 'no-console': 'off' },
  },
);
