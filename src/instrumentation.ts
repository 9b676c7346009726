/** Called once when the server starts. */
export async function register(): Promise<void> {
  if (process.env['NEXT_RUNTIME'] !== 'nodejs') return;
  const [{ tidyDaily }, { warmWorkers }] = await Promise.all([
    import('./server/housekeeping'),
    import('./server/pool/pool'),
  ]);
  warmWorkers();
  tidyDaily();
}
