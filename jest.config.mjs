// Unit tests: they sit beside the file they test; checks against outside sources are in tests/reference.
const config = {
  testMatch: [
    '<rootDir>/src/**/*.test.ts',
    '<rootDir>/tests/reference/**/*.test.ts',
    '<rootDir>/tests/unit/**/*.test.ts',
    '<rootDir>/tests/messes/**/*.test.ts',
  ],
  testEnvironment: 'node',
  globalSetup: '<rootDir>/tests/support/keepMade.mjs',
  // A test waits for a database, or reads a month of a log: on a busy machine that may take long.
  testTimeout: 180_000,
  moduleNameMapper: { '^@/(.*)$': '<rootDir>/src/$1' },
  transform: {
    '^.+\\.tsx?$': [
      '@swc/jest',
      {
        jsc: {
          parser: { syntax: 'typescript', tsx: true },
          target: 'es2022',
          transform: { optimizer: { globals: { vars: { NaN: '0/0' } } } },
        },
      },
    ],
    '^.+\\.m?js$': ['@swc/jest', { jsc: { target: 'es2022' }, module: { type: 'commonjs' } }],
  },
  // These come as ES modules only.
  transformIgnorePatterns: [
    '/node_modules/(?!(d3-[a-z-]+|internmap|hyparquet|hyparquet-compressors|hyparquet-writer|hysnappy)/)',
  ],
  modulePathIgnorePatterns: ['<rootDir>/.next', '<rootDir>/.build'],
  maxWorkers: 2,
  // Tests run in a sandbox, where every look at a global is slow: these are looked at millions of times.
  sandboxInjectedGlobals: [
    'Math',
    'Number',
    'Infinity',
    'Array',
    'Map',
    'Set',
    'Float32Array',
    'Float64Array',
    'Uint8Array',
    'Uint32Array',
    'Int32Array',
  ],
};

export default config;
