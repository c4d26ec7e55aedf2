const common = {
  testEnvironment: 'node',
  transform: {
    '^.+\\.(t|j)sx?$': [
      '@swc/jest',
      {
        jsc: {
          target: 'es2022',
          parser: { syntax: 'typescript', tsx: true },
          transform: { react: { runtime: 'automatic' } },
        },
        module: { type: 'commonjs' },
      },
    ],
  },
  // These packages ship ES modules only; everything else in node_modules runs as it is.
  transformIgnorePatterns: [
    '/node_modules/(?!(uuid|safe-stable-stringify|rate-limiter-flexible|p-queue|p-timeout|eventemitter3|json-schema-faker)/)',
  ],
  // Offered to importers only; Jest requires.
  moduleNameMapper: { '^json-schema-faker$': '<rootDir>/node_modules/json-schema-faker/dist/index.js' },
};

export default {
  // The machine's two cores; of its own accord Jest leaves one of them idle.
  maxWorkers: 2,
  // A machine that does other work has been ten times as slow for minutes; a hang is still found.
  testTimeout: 900_000,
  projects: [
    {
      ...common,
      displayName: 'unit',
      testMatch: ['<rootDir>/src/{core,contract,web}/**/*.test.ts?(x)', '<rootDir>/scripts/**/*.test.ts'],
    },
    {
      ...common,
      displayName: 'integration',
      globalSetup: '<rootDir>/scripts/jestCluster.mjs',
      testMatch: ['<rootDir>/src/{server,demo,bridge,devices}/**/*.test.ts'],
    },
  ],
};
