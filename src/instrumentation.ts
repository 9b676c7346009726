/** Told of an error that left a page unmade; set once the server has started. */
let tell: ((error: unknown) => void) | undefined;

/** Called once when the server starts. */
export async function register(): Promise<void> {
  if (process.env['NEXT_RUNTIME'] !== 'nodejs') return;
  const [{ tidyDaily, tidyOften }, { warmWorkers }, { tellPassing }] = await Promise.all([
    import('./server/housekeeping'),
    import('./server/pool/pool'),
    import('./server/passing'),
  ]);
  tell = tellPassing;
  warmWorkers();
  tidyDaily();
  tidyOften();
}

/** Called by the framework when a page cannot be made. */
export function onRequestError(error: unknown): void {
  tell?.(error);
}
