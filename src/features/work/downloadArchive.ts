import { FilesInZip } from './filesInZip';
import { patientFetch } from './patientFetch';

/** How an archive that is made while it is sent ended. */
export type Downloaded =
  | { readonly kind: 'saved'; readonly pieces: readonly Uint8Array<ArrayBuffer>[] }
  | { readonly kind: 'stopped' }
  /** In words for the person. */
  | { readonly kind: 'failed'; readonly message: string };

/**
 * Fetches an archive and hands it to the browser to be saved.
 * @param name of the file, where the server does not say one
 * @param onProgress told how many files have come whole, and of how many; 0 where that is not known
 */
export async function downloadArchive(
  address: string,
  name: string,
  signal: AbortSignal,
  onProgress: (done: number, of: number) => void,
): Promise<Downloaded> {
  try {
    const answer = await patientFetch(address, { signal });
    if (!answer.ok || !answer.body) {
      const refusal = (await answer.json().catch(() => ({}))) as { readonly messages?: readonly string[] };
      return { kind: 'failed', message: refusal.messages?.[0] ?? 'The archive could not be made.' };
    }
    const of = Number(answer.headers.get('x-reed-files') ?? 0);
    const files = new FilesInZip();
    const pieces: Uint8Array<ArrayBuffer>[] = [];
    const reader = answer.body.getReader();
    for (let next = await reader.read(); !next.done; next = await reader.read()) {
      pieces.push(next.value);
      onProgress(files.take(next.value), of);
    }
    const link = document.createElement('a');
    link.href = URL.createObjectURL(new Blob(pieces, { type: 'application/zip' }));
    link.download = /filename="([^"]+)"/.exec(answer.headers.get('content-disposition') ?? '')?.[1] ?? name;
    link.click();
    setTimeout(() => URL.revokeObjectURL(link.href), 60_000);
    return { kind: 'saved', pieces };
  } catch (error) {
    if (signal.aborted) return { kind: 'stopped' };
    if (error instanceof TypeError)
      return { kind: 'failed', message: 'The archive broke off: nothing was saved. Please try again.' };
    throw error;
  }
}
