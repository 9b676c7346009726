import type { NextConfig } from 'next';

const config: NextConfig = {
  poweredByHeader: false,
  reactStrictMode: true,
  serverExternalPackages: ['verovio', 'pdfkit', 'svg-to-pdfkit', 'knex', 'mysql2'],
  devIndicators: false,
};

export default config;
