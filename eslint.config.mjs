import { readFileSync } from 'node:fs';
import nextVitals from 'eslint-config-next/core-web-vitals';
import nextTs from 'eslint-config-next/typescript';

const BOOTSTRAP_CLASS =
  '(^|\\s)(([mp][tbsexy]?|gap|g[xy]?|w|h|fs|fw|lh|order|col|row-cols)-[0-9a-z]+|d-(none|block|flex|grid|inline\\S*)|(flex|align|justify|text|bg|border|rounded|position|overflow|shadow|float|btn|form|table|badge|alert|card|list|nav|modal|dropdown|visually)-[a-z0-9-]+|row|col|btn|table|badge|card|small|lead)(\\s|$)';

// How large anything may be: a function 80 lines, a component 120, 15 ways through it, 4 parameters.
// What was larger when these became gates is listed by file and rule; the list only gets shorter.
const TOO_LARGE = JSON.parse(readFileSync(new URL('eslint-too-large.json', import.meta.url), 'utf8'));
const lines = (max) => ['error', { max, skipBlankLines: true, skipComments: true }];
const limit = (rule, setting, files = ['src/**/*.ts', 'src/**/*.tsx']) => ({
  files,
  ignores: [
    '**/*.test.ts',
    '**/*.test.tsx',
    ...TOO_LARGE[rule].map((path) => path.replace(/[[\]]/g, '\\$&')),
  ],
  rules: { [rule]: setting },
});
const LIMITS = [
  limit('complexity', ['error', 15]),
  limit('max-params', ['error', 4]),
  limit('max-lines-per-function', lines(80), ['src/**/*.ts']),
  limit('max-lines-per-function', lines(120), ['src/**/*.tsx']),
];

const config = [
  ...nextVitals,
  ...nextTs,
  { ignores: ['.next/**', 'dist/**', 'public/**', 'node_modules/**', 'next-env.d.ts', 'var/**'] },
  {
    files: ['src/core/**/*.ts'],
    ignores: ['src/core/**/*.test.ts'],
    rules: {
      // core has no clock and no dice: both come from outside (docs/architecture.md).
      'no-restricted-globals': ['error', 'Date'],
      'no-restricted-properties': ['error', { object: 'Math', property: 'random' }],
    },
  },
  {
    files: ['src/ui/**/*.tsx', 'src/app/**/*.tsx'],
    ignores: ['src/ui/kit/**', '**/*.test.tsx'],
    rules: {
      'no-restricted-imports': [
        'error',
        { paths: [{ name: 'react-bootstrap', message: 'Controls come from @/ui/kit.' }] },
      ],
      // One place decides how a control looks and behaves under keyboard, touch and screen reader.
      'no-restricted-syntax': [
        'error',
        {
          selector: 'JSXOpeningElement[name.name=/^(button|input|select|textarea)$/]',
          message: 'Controls come from @/ui/kit.',
        },
        {
          selector: `JSXAttribute[name.name="className"] Literal[value=/${BOOTSTRAP_CLASS}/]`,
          message: 'Classes of Bootstrap stay in @/ui/kit; use a component of it, or a class of our own.',
        },
        {
          selector: `JSXAttribute[name.name="className"] TemplateElement[value.raw=/${BOOTSTRAP_CLASS}/]`,
          message: 'Classes of Bootstrap stay in @/ui/kit; use a component of it, or a class of our own.',
        },
      ],
    },
  },
  {
    rules: {
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/no-explicit-any': 'error',
      '@typescript-eslint/consistent-type-imports': 'error',
      complexity: ['warn', 25],
    },
  },
  ...LIMITS,
];
export default config;
