import { existsSync, readdirSync } from 'node:fs';
import next from 'eslint-config-next/core-web-vitals';
import typescript from 'eslint-config-next/typescript';

const POWER = {
  selector: "BinaryExpression[operator='**']",
  message: 'Multiply, or take pow from core/math/portable.',
};

const HOOKS = new Set(['react-hooks/rules-of-hooks', 'react-hooks/exhaustive-deps']);
const COMPILER_RULES = next
  .flatMap(({ rules }) => Object.keys(rules ?? {}))
  .filter((name) => name.startsWith('react-hooks/') && !HOOKS.has(name));

const ARRANGE = 'src/core/arrange';
const kinds = readdirSync(ARRANGE).filter((name) => existsSync(`${ARRANGE}/${name}/kind.ts`));

/** What a kind does, it says itself; what others ask for is what it can. */
const KIND_BY_NAME = {
  selector:
    `BinaryExpression[operator=/^[!=]==$/][right.value=/^(${kinds.join('|')})$/]` +
    `:matches([left.property.name='kind'], [left.expression.property.name='kind'])`,
  message:
    'Ask what it can (has, kindOf in core/arrange/registry; uiOf in ui/kinds/registry), not which kind it is.',
};

export default [
  { ignores: ['.next/**', 'node_modules/**', 'next-env.d.ts', 'test-results/**', 'playwright-report/**'] },
  ...next,
  ...typescript,
  {
    rules: {
      // The React compiler is not used, and working out its rules takes two thirds of the time: those of hooks stay.
      ...Object.fromEntries(COMPILER_RULES.map((name) => [name, 'off'])),
      // Pictures are data URLs; there is nothing to optimise.
      '@next/next/no-img-element': 'off',
      'import/no-anonymous-default-export': 'off',
      'prefer-const': 'error',
      eqeqeq: ['error', 'always'],
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
    },
  },
  { files: ['src/**/*.{ts,tsx}'], rules: { 'no-restricted-syntax': ['error', KIND_BY_NAME] } },
  {
    files: ['src/core/**/*.ts', 'src/demo/**/*.ts'],
    ignores: ['**/*.test.ts', 'src/core/testing/**', 'src/core/math/portable.ts'],
    rules: {
      // Their last bits differ between engines, and the same document must give the same bytes everywhere.
      'no-restricted-properties': [
        'error',
        ...[
          ...[
            'sin',
            'cos',
            'tan',
            'asin',
            'acos',
            'atan',
            'atan2',
            'sinh',
            'cosh',
            'tanh',
            'asinh',
            'acosh',
            'atanh',
          ],
          ...['exp', 'expm1', 'log', 'log1p', 'log2', 'log10', 'pow', 'cbrt', 'hypot'],
        ].map((property) => ({ object: 'Math', property, message: 'Take it from core/math/portable.' })),
      ],
      'no-restricted-syntax': ['error', KIND_BY_NAME, POWER],
    },
  },
  {
    // A source of paths is called like a kind; what it is, is told there.
    files: [...kinds.map((kind) => `src/ui/kinds/${kind}/**`), 'src/core/curve/schema.ts', '**/*.test.ts'],
    rules: { 'no-restricted-syntax': 'off' },
  },
  {
    files: kinds.map((kind) => `${ARRANGE}/${kind}/**/*.ts`),
    ignores: ['**/*.test.ts'],
    rules: { 'no-restricted-syntax': ['error', POWER] },
  },
];
