import hooks from 'eslint-plugin-react-hooks';
import ts from 'typescript-eslint';

export default ts.config(
  { ignores: ['**/dist/**', '**/node_modules/**', 'core/kernels/**', 'data/**', 'server/migrations/**'] },
  ...ts.configs.recommended,
  { files: ['web/src/**/*.{ts,tsx}'], plugins: { 'react-hooks': hooks }, rules: { 'react-hooks/rules-of-hooks': 'error', 'react-hooks/exhaustive-deps': 'error' } },
  {
    // What reaches a pixel is reckoned by the kernels, so that every engine gives the same bits; measures, signals and tests are read, not seen.
    files: ['core/src/**/*.ts'],
    ignores: ['**/*.test.ts', 'core/src/testing*.ts', 'core/src/twins.ts', 'core/src/measure/**', 'core/src/signals/**'],
    rules: {
      'no-restricted-properties': [
        'error',
        ...['sin', 'cos', 'tan', 'asin', 'acos', 'atan', 'atan2', 'exp', 'expm1', 'log', 'log2', 'log10', 'log1p', 'pow', 'cbrt', 'hypot', 'sinh', 'cosh', 'tanh', 'random'].map(
          (property) => ({
            object: 'Math',
            property,
            message: 'engines differ in its last bits: take the kernels’',
          }),
        ),
      ],
    },
  },
  {
    rules: {
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_', caughtErrorsIgnorePattern: '^_' }],
      '@typescript-eslint/no-explicit-any': 'error',
      eqeqeq: 'error',
      'no-console': ['error', { allow: ['error', 'log'] }],
    },
  },
);
