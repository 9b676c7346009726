import { Zip, ZipDeflate, ZipPassThrough } from 'fflate';
import { faultOf } from './fault';
import { log } from './log';
import { jobFailureOf } from './pool/workerPool';

/** A file of an archive that is sent as it is made. */
export interface ArchiveFile {
  readonly name: string;
  readonly data: Uint8Array;
  /** It is packed already, like sound: packing it again would only take time. */
  readonly isPacked?: true;
}

/** So much may lie unread before who makes waits for who reads, bytes. */
const AHEAD = 1_000_000;

/** An archive made file by file as it is sent, so that one of any size needs no more memory than one file. */
export function zipStream(files: AsyncGenerator<ArchiveFile, void>, signal: AbortSignal): ReadableStream<Uint8Array> {
  let failed: Error | undefined;
  let isGivenUp = false;
  return new ReadableStream<Uint8Array>(
    {
      start(controller) {
        const zip = new Zip((error, chunk, isLast) => {
          if (isGivenUp) return;
          if (error) failed = error;
          else if (chunk.length > 0) controller.enqueue(chunk);
          if (isLast) controller.close();
        });
        void (async () => {
          try {
            for await (const { name, data, isPacked } of files) {
              if (failed) throw failed;
              // Who reads slowly is waited for.
              while ((controller.desiredSize ?? 0) <= 0 && !isGivenUp && !signal.aborted)
                await new Promise((done) => setTimeout(done, 20));
              const file = isPacked ? new ZipPassThrough(name) : new ZipDeflate(name, { level: 6 });
              file.mtime = new Date('2000-01-01T00:00:00Z');
              zip.add(file);
              file.push(data, true);
            }
            zip.end();
          } catch (error) {
            if (jobFailureOf(error) !== 'cancelled') log.error(faultOf(error), 'an archive broke off');
            // A broken archive is better seen as broken than taken for a whole one.
            controller.error(error);
          }
        })();
      },
      async cancel() {
        isGivenUp = true;
        await files.return(undefined);
      },
    },
    // Counted in bytes: by default a stream counts pieces, and a piece may be a file.
    new ByteLengthQueuingStrategy({ highWaterMark: AHEAD }),
  );
}
