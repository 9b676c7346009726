import Link from 'next/link';

export default function NotFound() {
  return (
    <main className="flex h-dvh flex-col items-center justify-center gap-3 bg-paper">
      <h1 className="font-serif text-2xl font-semibold">Not found</h1>
      <p className="text-ink-soft">It may have been removed, or the link is incomplete.</p>
      <Link href="/" className="font-medium text-cane underline underline-offset-4">
        Back to the shelf
      </Link>
    </main>
  );
}
