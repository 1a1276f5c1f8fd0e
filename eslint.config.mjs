// Lint rules. The second block keeps the one direction of the architecture: see docs/architecture.md.
import { defineConfig, globalIgnores } from 'eslint/config';
import nextVitals from 'eslint-config-next/core-web-vitals';
import ts from 'typescript-eslint';

const layer = (target, ...from) => from.map((one) => ({ target: `./src/${target}`, from: `./src/${one}` }));

const except = (target, from, but) => [{ target: `./src/${target}`, from: `./src/${from}`, except: [but] }];

/** The folders of core in the order of the work: each may import those before it. */
const CORE = [
  'quantity',
  'system',
  'log',
  'charge',
  'count',
  'cutoff',
  'cells',
  'hydrometer',
  'hazards',
  'causes',
  'diagnosis',
  'plan',
];

/** What each folder may not import. core imports nothing of ours; inside core the order of the work is kept. */
const zones = [
  ...layer('core', 'app', 'ui', 'server', 'store', 'workers', 'standins'),
  ...layer('store', 'app', 'ui', 'server', 'workers', 'standins'),
  ...layer('server', 'app'),
  // The report is drawn in a thread, from what its page says.
  ...except('server', 'ui', './report'),
  ...layer('ui', 'app', 'server', 'store'),
  ...layer('workers', 'app', 'server', 'store'),
  ...except('workers', 'ui', './report'),
  ...inOrder(CORE),
  ...layer('core/bundle', 'core/charge', 'core/causes', 'core/diagnosis', 'core/plan', 'core/simulate'),
  ...CORE.flatMap((one) => layer(`core/${one}`, 'core/simulate')),
];

function inOrder(folders) {
  return folders.flatMap((target, at) =>
    folders.slice(at + 1).map((from) => ({ target: `./src/core/${target}`, from: `./src/core/${from}` })),
  );
}

/** React and Next.js are used by the interface alone: elsewhere their rules would find nothing, and take most of the time. */
const INTERFACE = ['src/{app,ui}/**/*.ts', 'src/**/*.tsx'];
const { plugins, settings } = nextVitals[0];

export default defineConfig([
  globalIgnores([
    'public/',
    '.next/**',
    '.build/**',
    '.pazienza/**',
    'next-env.d.ts',
    'playwright-report/**',
    'test-results/**',
  ]),
  ...nextVitals.map((one) => (one.rules ? { ...one, files: INTERFACE } : one)),
  ...ts.configs.recommended,
  {
    files: ['src/**/*.{ts,tsx}'],
    ignores: ['src/**/*.test.ts'],
    plugins: { import: plugins.import },
    settings,
    rules: { 'import/no-restricted-paths': ['error', { zones }] },
  },
  {
    plugins: { import: plugins.import },
    settings: { 'import/resolver': { typescript: true } },
    rules: {
      'import/no-anonymous-default-export': 'error',
      '@typescript-eslint/no-explicit-any': 'error',
      '@typescript-eslint/consistent-type-imports': 'error',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_' }],
      eqeqeq: ['error', 'always', { null: 'ignore' }],
      'no-console': 'off',
      // What comes from outside may be called "constructor": whether a table has a name is asked with Object.hasOwn, a Map or a Set.
      'no-restricted-syntax': [
        'error',
        {
          selector: "BinaryExpression[operator='in'][left.type!='Literal'][left.type!='PrivateIdentifier']",
          message: 'A name that is not written here is looked up with Object.hasOwn, a Map or a Set.',
        },
      ],
    },
  },
  {
    files: ['src/core/**/*.ts'],
    ignores: ['src/core/**/*.test.ts'],
    rules: {
      'no-restricted-properties': [
        'error',
        { object: 'Math', property: 'random', message: 'Core takes its random numbers as an argument.' },
        { object: 'Date', property: 'now', message: 'Core has no clock: take the time as an argument.' },
      ],
    },
  },
]);
