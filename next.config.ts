import type { NextConfig } from 'next';

const config: NextConfig = {
  poweredByHeader: false,
  reactStrictMode: true,
  // The PDF renderer and the database driver run as they are, outside the bundle.
  serverExternalPackages: ['@react-pdf/renderer', 'pg'],
  outputFileTracingRoot: import.meta.dirname,
  turbopack: { root: import.meta.dirname },
};

export default config;
