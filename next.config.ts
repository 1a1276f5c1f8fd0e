import type { NextConfig } from 'next';

const config: NextConfig = {
  poweredByHeader: false,
  reactStrictMode: true,
  // The PDF renderer and the database driver run as they are, outside the bundle.
  serverExternalPackages: ['@react-pdf/renderer', 'pg', 'pg-boss', 'piscina', 'sharp'],
  // Pictures are shown as they are: nothing is to be fetched or scaled on request.
  images: { unoptimized: true },
  // bin/test checks the types of everything; a build does not do it again.
  typescript: { ignoreBuildErrors: true },
  outputFileTracingRoot: import.meta.dirname,
  turbopack: { root: import.meta.dirname },
};

export default config;
