import js from '@eslint/js';
import hooks from 'eslint-plugin-react-hooks';
import tseslint from 'typescript-eslint';

const STAGES = ['intake', 'shape', 'rig', 'motion', 'wiring', 'trial', 'ship'];

/** Every value that a file of core exports has a docstring. */
const exportedDoc = {
  create: (context) => ({
    'ExportNamedDeclaration[declaration]'(node) {
      if (node.declaration.type.startsWith('TS')) return;
      const before = context.sourceCode.getCommentsBefore(node).at(-1);
      if (before?.type === 'Block' && before.value.startsWith('*')) return;
      context.report({ node, message: 'Say in a docstring what this is: what it takes and gives, in which units, what it throws.' });
    },
  }),
};

export default tseslint.config(
  {
    ignores: [
      'cli/dist/**',
      'web/.worker/**',
      '**/node_modules/**',
      '**/.next/**',
      '.data/**',
      '**/next-env.d.ts',
      'test-results/**',
      'playwright-report/**',
    ],
  },
  js.configs.recommended,
  ...tseslint.configs.recommended,
  {
    files: ['**/*.{ts,tsx}'],
    languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } },
    rules: { '@typescript-eslint/no-floating-promises': 'error', '@typescript-eslint/consistent-type-imports': 'error' },
  },
  {
    files: ['web/src/**/*.{ts,tsx}'],
    ignores: ['web/src/stages/**', '**/*.test.ts'],
    rules: {
      'no-restricted-syntax': [
        'error',
        {
          selector: `BinaryExpression[operator=/^[!=]==$/] > Literal[value=/^(${STAGES.join('|')})$/]`,
          message: 'What differs from stage to stage is said in its stage.ts.',
        },
      ],
    },
  },
  {
    files: ['core/src/**/*.ts'],
    ignores: ['core/src/tests/**', '**/*.test.ts'],
    plugins: { itchkit: { rules: { 'exported-doc': exportedDoc } } },
    rules: { 'itchkit/exported-doc': 'error' },
  },
  { files: ['web/src/**/*.{ts,tsx}'], ...hooks.configs.flat['recommended-latest'] },
  {
    files: ['**/*.{mjs,cjs}'],
    languageOptions: {
      globals: { process: 'readonly', console: 'readonly', fetch: 'readonly', setTimeout: 'readonly', module: 'readonly' },
    },
  },
  {
    rules: {
      'no-console': 'error',
      eqeqeq: 'error',
      'no-nested-ternary': 'error',
      'max-len': ['error', { code: 140, ignoreStrings: true, ignoreTemplateLiterals: true, ignoreRegExpLiterals: true }],
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
    },
  },
);
