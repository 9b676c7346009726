import type { Metadata } from 'next';
import { notFound } from 'next/navigation';

export const metadata: Metadata = { title: 'This link has ended', robots: { index: false } };
export const dynamic = 'force-dynamic';

/** What a link shows that was ended, has run out, or never was. */
export default function LinkEndedPage(): never {
  notFound();
}
