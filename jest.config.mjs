import { fileURLToPath, URL } from 'node:url';

const transform = {
  '^.+\\.(t|j|mj)sx?$': [
    '@swc/jest',
    {
      jsc: { parser: { syntax: 'typescript', tsx: true }, target: 'es2022', transform: { react: { runtime: 'automatic' } } },
      // Packages are read when they are first used: each test file would read all of them anew.
      module: { type: 'commonjs', lazy: true },
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
/**
 * What the language has, given to each module by name: looked up in a test's own global scope each costs a call, and tight loops took ten
 * times as long as outside of Jest. What tests put something else in the place of (clocks above all) stays global.
 */
const LANGUAGE = /^(Array|BigInt|DataView|Infinity|Map|Math|Number|Object|Set|String|Symbol|(Float|Int|Uint)\d+(Clamped)?Array)$/;
const shared = {
  sandboxInjectedGlobals: Object.getOwnPropertyNames(globalThis).filter((name) => LANGUAGE.test(name)),
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
