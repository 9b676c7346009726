'use client';

/** Shown when a page cannot be made: most often the database is away for a moment. */
export default function PageError({ reset }: { readonly error: Error; readonly reset: () => void }) {
  return (
    <main className="flex h-dvh flex-col items-center justify-center gap-3 bg-paper">
      <h1 className="font-serif text-2xl font-semibold">The page could not be opened</h1>
      <p className="text-ink-soft">The database may be away for a moment. Nothing is lost.</p>
      <button type="button" onClick={reset} className="min-h-8 rounded bg-cane px-4 font-medium text-white">
        Try again
      </button>
    </main>
  );
}
