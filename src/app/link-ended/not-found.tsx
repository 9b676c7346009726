/** Told to a pupil: what happened, and what to do. */
export default function LinkEnded() {
  return (
    <main className="flex h-dvh flex-col items-center justify-center gap-3 bg-paper px-6 text-center">
      <h1 className="font-serif text-2xl font-semibold">This link has ended</h1>
      <p className="max-w-sm text-ink-soft">
        Ask your teacher for a new one. What you practised and could not send yet is kept on this device.
      </p>
    </main>
  );
}
