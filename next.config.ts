import type { NextConfig } from 'next';

const config: NextConfig = {
  poweredByHeader: false,
  // Types are checked by the tests; whoever starts the program is not to wait for it.
  typescript: { ignoreBuildErrors: true },
  reactStrictMode: true,
  // On loopback packing takes longer than sending; who puts a server in front lets that one pack.
  compress: false,
  serverExternalPackages: ['verovio', 'pdfkit', 'svg-to-pdfkit', 'knex', 'mysql2', 'piscina', 'pino'],
  devIndicators: false,
};

export default config;
