const base = {
  // Test files run inside a vm, where every look at a global takes its time: hot loops are three times as fast so.
  sandboxInjectedGlobals: [
    'Math',
    'Float32Array',
    'Float64Array',
    'Number',
    'Array',
    'Int32Array',
    'Uint8Array',
    'Map',
    'Set',
    'DataView',
    'Uint32Array',
    'Int16Array',
    'Uint16Array',
  ],
  transform: {
    '^.+\\.(t|j|mj)sx?$': [
      '@swc/jest',
      {
        jsc: {
          parser: { syntax: 'typescript', tsx: true },
          target: 'es2022',
          transform: { react: { runtime: 'automatic' } },
        },
      },
    ],
  },
  moduleNameMapper: { '^@/(.*)$': '<rootDir>/src/$1', '\\.css$': '<rootDir>/tests/support/empty.ts' },
  transformIgnorePatterns: [
    '/node_modules/(?!(@tanstack|tus-js-client|@tus|srvx|any-ascii|culori|fractional-indexing|d3-[a-z-]+|internmap)/)',
  ],
  modulePathIgnorePatterns: ['<rootDir>/.next/', '<rootDir>/dist/', '<rootDir>/var/'],
};
const config = {
  // The machine may be busy: waiting longer costs nothing when all is well.
  testTimeout: 120_000,
  projects: [
    {
      ...base,
      displayName: 'unit',
      testEnvironment: 'node',
      testMatch: [
        '<rootDir>/src/**/*.test.ts',
        '<rootDir>/demo/**/*.test.ts',
        '<rootDir>/tests/checks/**/*.test.ts',
      ],
    },
    {
      ...base,
      displayName: 'ui',
      testEnvironment: 'jsdom',
      setupFilesAfterEnv: ['<rootDir>/tests/support/jest-dom.ts'],
      testMatch: ['<rootDir>/src/**/*.test.tsx'],
    },
    {
      ...base,
      displayName: 'integration',
      testEnvironment: 'node',
      setupFilesAfterEnv: ['<rootDir>/tests/support/long-tests.ts'],
      testMatch: ['<rootDir>/tests/integration/**/*.test.ts'],
    },
  ],
};
export default config;
