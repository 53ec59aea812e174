import { fileURLToPath, URL } from 'node:url';

const transform = {
  '^.+\\.(t|j|mj)sx?$': [
    '@swc/jest',
    {
      jsc: { parser: { syntax: 'typescript', tsx: true }, target: 'es2022', transform: { react: { runtime: 'automatic' } } },
      module: { type: 'commonjs' },
    },
  ],
};
// These packages ship as ES modules alone.
const esm = [
  'nanoid',
  '@noble',
  '@gltf-transform',
  'd3-[a-z-]+',
  'fast-png',
  'iobuffer',
  'immer',
  'internmap',
  'property-graph',
  'ktx-parse',
  'fflate',
  'flatqueue',
  'gl-matrix',
  'jpeg-js',
  '@itchkit',
  'meshoptimizer',
  'minisearch',
  'react-arborist',
  'three',
];
const shared = {
  transform,
  transformIgnorePatterns: [`/node_modules/(?!(${esm.join('|')}))`],
  testEnvironment: 'node',
  setupFiles: [fileURLToPath(new URL('./scripts/jest-seed.mjs', import.meta.url))],
};

export default {
  testTimeout: 180_000,
  // One a core: of two, Jest would leave one idle.
  maxWorkers: '100%',
  projects: [
    { ...shared, displayName: 'core', testMatch: ['<rootDir>/core/src/**/*.test.ts'] },
    { ...shared, displayName: 'cli', testMatch: ['<rootDir>/cli/src/**/*.test.ts'] },
    { ...shared, displayName: 'demo', testMatch: ['<rootDir>/demo/src/**/*.test.ts'] },
    { ...shared, displayName: 'web', testMatch: ['<rootDir>/web/src/**/*.test.ts'], testPathIgnorePatterns: ['/web/src/server/'] },
    {
      ...shared,
      displayName: 'server',
      testEnvironmentOptions: { globalsCleanup: 'off' },
      testMatch: ['<rootDir>/web/src/server/**/*.test.ts'],
      globalSetup: '<rootDir>/scripts/jest-database.mjs',
      globalTeardown: '<rootDir>/scripts/jest-database-end.mjs',
    },
  ],
};
