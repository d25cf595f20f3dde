import type { NextConfig } from 'next';
import { resolve } from 'node:path';

// Isolation gives the bench shared memory between its workers.
const headers = [
  { key: 'Cross-Origin-Opener-Policy', value: 'same-origin' },
  { key: 'Cross-Origin-Embedder-Policy', value: 'require-corp' },
  { key: 'Cross-Origin-Resource-Policy', value: 'same-origin' },
  { key: 'X-Content-Type-Options', value: 'nosniff' },
  { key: 'Referrer-Policy', value: 'same-origin' },
];

const root = resolve(import.meta.dirname, '..');

const config: NextConfig = {
  compiler: { styledComponents: true },
  transpilePackages: ['@umbo/core', '@umbo/data', '@umbo/files', '@umbo/find', '@umbo/kernels'],
  serverExternalPackages: ['sequelize', 'mysql2', 'sharp', 'umzug', 'lcms-wasm', 'pdfkit'],
  turbopack: { root },
  outputFileTracingRoot: root,
  poweredByHeader: false,
  reactStrictMode: true,
  devIndicators: false,
  // `npm test` checks the types of every workspace in a stage of its own.
  typescript: { ignoreBuildErrors: true },
  headers: async () => [{ source: '/:path*', headers }],
};
export default config;
