import type { NextConfig } from 'next';
import { join } from 'node:path';

const config: NextConfig = {
  transpilePackages: ['@itchkit/core', '@itchkit/rulebooks'],
  serverExternalPackages: ['pg', 'pino'],
  turbopack: { root: join(import.meta.dirname, '..') },
  devIndicators: false,
  poweredByHeader: false,
  reactStrictMode: true,
  // The test command checks types over every workspace; the build need not do it again.
  typescript: { ignoreBuildErrors: true },
};

export default config;
