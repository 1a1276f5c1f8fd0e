// Unit tests: they sit beside the file they test; checks against outside sources are in tests/reference.
const config = {
  testMatch: [
    '<rootDir>/src/**/*.test.ts',
    '<rootDir>/tests/reference/**/*.test.ts',
    '<rootDir>/tests/unit/**/*.test.ts',
  ],
  testEnvironment: 'node',
  moduleNameMapper: { '^@/(.*)$': '<rootDir>/src/$1' },
  transform: {
    '^.+\\.tsx?$': ['@swc/jest', { jsc: { parser: { syntax: 'typescript', tsx: true }, target: 'es2022' } }],
  },
  modulePathIgnorePatterns: ['<rootDir>/.next', '<rootDir>/.build'],
  maxWorkers: 2,
};

export default config;
