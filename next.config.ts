import type { NextConfig } from 'next';

// Cross-origin isolation is what SharedArrayBuffer (the listening rings) needs; the rest is plain hardening.
const headers = [
  { key: 'Cross-Origin-Opener-Policy', value: 'same-origin' },
  { key: 'Cross-Origin-Embedder-Policy', value: 'require-corp' },
  { key: 'Cross-Origin-Resource-Policy', value: 'same-origin' },
  { key: 'X-Content-Type-Options', value: 'nosniff' },
  { key: 'X-Frame-Options', value: 'DENY' },
  { key: 'Referrer-Policy', value: 'no-referrer' },
];

const config: NextConfig = {
  serverExternalPackages: ['sequelize', 'pg', 'umzug', 'graphile-worker', '@tus/server', '@tus/file-store'],
  // Bootstrap is still written with `@import`.
  sassOptions: { loadPaths: ['node_modules'], quietDeps: true, silenceDeprecations: ['import'] },
  poweredByHeader: false,
  devIndicators: false,
  // Types are checked by `npm test`; a start need not wait for them again.
  typescript: { ignoreBuildErrors: true },
  headers: async () => [{ source: '/:path*', headers }],
};
export default config;
