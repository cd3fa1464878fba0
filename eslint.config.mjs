import hooks from 'eslint-plugin-react-hooks';
import ts from 'typescript-eslint';

/** What is read stands in one folder: as text of an element or of an attribute that is read, and in notes. */
const WORDS = ':matches(:not(BinaryExpression) > Literal[value=/[A-Za-z]{2}/], TemplateElement[value.raw=/[A-Za-z]{2}/])';
const TEXTS = [
  'JSXText[value=/[A-Za-z]{2}/]',
  `JSXAttribute[name.name=/^(title|alt|label|heading|placeholder|aria-label|aria-valuetext)$/] ${WORDS}`,
  'CallExpression:matches([callee.name="toast"], [callee.object.name="toast"]) > :matches(Literal, TemplateLiteral > TemplateElement[value.raw=/[A-Za-z]{2}/])',
].map((selector) => ({ selector, message: 'what is read stands in web/src/messages' }));

export default ts.config(
  { ignores: ['**/dist/**', '**/node_modules/**', 'core/kernels/**', 'data/**', 'server/migrations/**'] },
  ...ts.configs.recommended,
  {
    // Rules that need types: what is awaited, what is left behind, what a switch forgets.
    files: ['{core,contract,media,server,web,cli,e2e}/**/*.{ts,tsx}'],
    ignores: ['core/types/**', '**/*.d.mts'],
    languageOptions: { parserOptions: { project: './tsconfig.json', tsconfigRootDir: import.meta.dirname } },
    rules: {
      '@typescript-eslint/no-floating-promises': 'error',
      '@typescript-eslint/no-misused-promises': ['error', { checksVoidReturn: { arguments: false, attributes: false } }],
      '@typescript-eslint/await-thenable': 'error',
      '@typescript-eslint/switch-exhaustiveness-check': ['error', { considerDefaultExhaustiveForUnions: true }],
      '@typescript-eslint/no-unnecessary-type-assertion': 'error',
      '@typescript-eslint/restrict-plus-operands': 'error',
      '@typescript-eslint/only-throw-error': 'error',
      '@typescript-eslint/prefer-promise-reject-errors': 'error',
      '@typescript-eslint/no-array-delete': 'error',
      '@typescript-eslint/no-base-to-string': 'error',
      '@typescript-eslint/no-for-in-array': 'error',
    },
  },
  { files: ['web/src/**/*.{ts,tsx}'], ...hooks.configs.flat['recommended-latest'] },
  { files: ['web/src/**/*.{ts,tsx}'], ignores: ['web/src/messages/**', '**/*.test.ts'], rules: { 'no-restricted-syntax': ['error', ...TEXTS] } },
  {
    files: ['web/src/bench/**/*.{ts,tsx}'],
    ignores: ['web/src/bench/state/**'],
    rules: {
      'no-restricted-syntax': [
        'error',
        ...TEXTS,
        { selector: "CallExpression[callee.property.name='setState'][callee.object.name=/^use/]", message: 'what is on the bench is changed by actions of web/src/bench/state' },
        {
          selector: 'CallExpression[callee.name=/^use(Document|Session|Playback|Compare|Scopes)$/][arguments.length=0]',
          message: 'take what is needed by a selector: the whole store would be drawn anew with every picture',
        },
      ],
    },
  },
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
