import Link from 'next/link';

export default function NotFound() {
  return (
    <main className="flex h-dvh flex-col items-center justify-center gap-3 bg-paper">
      <h1 className="font-serif text-2xl font-semibold">This is not on the shelf</h1>
      <p className="text-ink-soft">It may have been taken off, or the address is not whole.</p>
      <Link href="/" className="font-medium text-cane underline underline-offset-4">
        To the shelf
      </Link>
    </main>
  );
}
