import { Unzip, UnzipInflate } from 'fflate';
import { joinBytes } from '../joinBytes';
import { failure, success, type Result } from '../result';

export type ZipProblem =
  | { readonly code: 'damaged'; readonly found: string }
  /** More than may be inflated; bytes. */
  | { readonly code: 'too-large'; readonly most: number };

/** Deflate expands a thousandfold at most, so a piece of this size overshoots the limit by four megabytes. Bytes. */
const PIECE = 4_096;

/**
 * The files of a zip archive whose names are wanted, inflated piece by piece up to a limit in bytes for all of them
 * together. Sizes that the archive declares are not looked at: inflating stops where the limit is reached.
 */
export function inflateZip(
  bytes: Uint8Array,
  isWanted: (name: string) => boolean,
  most: number,
): Result<ReadonlyMap<string, Uint8Array>, ZipProblem> {
  const files = new Map<string, Uint8Array[]>();
  let total = 0;
  let isTooLarge = false;
  let broken: string | undefined;
  const unzip = new Unzip((file) => {
    if (!isWanted(file.name) || isTooLarge) return;
    const pieces: Uint8Array[] = [];
    files.set(file.name, pieces);
    file.ondata = (error, piece) => {
      if (error) broken ??= error.message;
      else {
        total += piece.length;
        isTooLarge ||= total > most;
        if (!isTooLarge) pieces.push(piece);
      }
    };
    file.start();
  });
  unzip.register(UnzipInflate);
  try {
    for (let at = 0; at < bytes.length && !isTooLarge && broken === undefined; at += PIECE)
      unzip.push(bytes.subarray(at, at + PIECE), at + PIECE >= bytes.length);
  } catch (error) {
    // fflate throws an Error of its own for every broken archive.
    broken = error instanceof Error ? error.message : 'not a zip archive';
  }
  if (isTooLarge) return failure({ code: 'too-large', most });
  if (broken !== undefined) return failure({ code: 'damaged', found: broken });
  return success(new Map([...files].map(([name, pieces]) => [name, joinBytes(pieces)])));
}
