import type { NextConfig } from 'next';
import { PLAIN_HEADERS } from './src/plainHeaders.mjs';

const config: NextConfig = {
  poweredByHeader: false,
  reactStrictMode: true,
  serverExternalPackages: ['verovio', 'pdfkit', 'svg-to-pdfkit', 'knex', 'mysql2', 'piscina', 'pino'],
  devIndicators: false,
  headers: () =>
    Promise.resolve([
      { source: '/:path*', headers: Object.entries(PLAIN_HEADERS).map(([key, value]) => ({ key, value })) },
    ]),
};

export default config;
