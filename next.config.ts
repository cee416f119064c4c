import type { NextConfig } from 'next';

const config: NextConfig = {
  poweredByHeader: false,
  reactStrictMode: true,
  devIndicators: false,
  serverExternalPackages: ['better-sqlite3'],
  // `npm test` checks types, once and for everything.
  typescript: { ignoreBuildErrors: true },
};

export default config;
