import type { NextConfig } from 'next';

const config: NextConfig = {
  poweredByHeader: false,
  reactStrictMode: true,
  serverExternalPackages: ['verovio', 'pdfkit', 'svg-to-pdfkit', 'knex', 'mysql2', 'piscina', 'pino'],
  devIndicators: false,
};

export default config;
