import nextVitals from 'eslint-config-next/core-web-vitals';
import nextTs from 'eslint-config-next/typescript';

const BOOTSTRAP_CLASS =
  '(^|\\s)(([mp][tbsexy]?|gap|g[xy]?|w|h|fs|fw|lh|order|col|row-cols)-[0-9a-z]+|d-(none|block|flex|grid|inline\\S*)|(flex|align|justify|text|bg|border|rounded|position|overflow|shadow|float|btn|form|table|badge|alert|card|list|nav|modal|dropdown|visually)-[a-z0-9-]+|row|col|btn|table|badge|card|small|lead)(\\s|$)';

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
];
export default config;
