import type { NextConfig } from 'next';
import { join } from 'node:path';

/** What every answer says; pages get a policy of their own (`src/proxy.ts`). */
const HEADERS = {
  'x-content-type-options': 'nosniff',
  'x-frame-options': 'DENY',
  'referrer-policy': 'no-referrer',
  'cross-origin-resource-policy': 'same-origin',
  'cross-origin-opener-policy': 'same-origin',
};
const headers = (more: Record<string, string> = {}) => Object.entries({ ...HEADERS, ...more }).map(([key, value]) => ({ key, value }));

const config: NextConfig = {
  headers: () =>
    Promise.resolve([
      { source: '/:path*', headers: headers() },
      { source: '/api/:path*', headers: headers({ 'content-security-policy': "default-src 'none'; frame-ancestors 'none'" }) },
    ]),
  transpilePackages: ['@itchkit/core', '@itchkit/demo', '@itchkit/rulebooks'],
  serverExternalPackages: ['pg', 'pino', 'sharp', 'rotating-file-stream'],
  turbopack: { root: join(import.meta.dirname, '..') },
  devIndicators: false,
  poweredByHeader: false,
  reactStrictMode: true,
  // The test command checks types over every workspace; the build need not do it again.
  typescript: { ignoreBuildErrors: true },
};

export default config;
