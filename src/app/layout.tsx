import '@fontsource-variable/commissioner';
import '@fontsource-variable/literata';
import './globals.css';
import type { Metadata } from 'next';
import localFont from 'next/font/local';
import { headers } from 'next/headers';
import type { ReactNode } from 'react';
import { Nonce } from '../ui/Nonce';
import { ToastArea } from '../ui/Toast';
import { WhoAsksArea } from '../ui/WhoAsks';
import { whoAsks } from '../server/accounts/asking';

export const metadata: Metadata = {
  title: { default: 'Reed Hook', template: '%s · Reed Hook' },
  description: 'Arrange a tune into beginner, intermediate and advanced parts.',
};

const leipzig = localFont({
  src: '../../node_modules/@vexflow-fonts/leipzig/leipzig.woff2',
  variable: '--font-leipzig',
  display: 'block',
  preload: true,
});

export default async function Layout({ children }: { readonly children: ReactNode }) {
  const nonce = (await headers()).get('x-nonce') ?? '';
  return (
    <html lang="en" className={leipzig.variable}>
      <body>
        <Nonce value={nonce} />
        <WhoAsksArea who={whoAsks()}>
          <ToastArea>{children}</ToastArea>
        </WhoAsksArea>
      </body>
    </html>
  );
}
