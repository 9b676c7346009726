'use client';

import { useEffect, useRef, useState } from 'react';
import { z } from 'zod';
import { downloadArchive } from '../downloadArchive';
import { patientFetch } from '../patientFetch';

/** What becomes of something that takes long. */
export type Making =
  | { readonly kind: 'idle' }
  | { readonly kind: 'making'; readonly what: 'pages' | 'files'; readonly done: number; readonly of: number }
  | { readonly kind: 'ready'; readonly what: 'pages' | 'files' }
  | { readonly kind: 'failed'; readonly message: string };

const lineSchema = z.object({ done: z.number(), of: z.number() });
const BROKEN = 'Making broke off: nothing is lost. Please try again.';

/** Makes what takes long, tells how far it has come, and stops when it is told to. */
export function useMaking() {
  const [making, setMaking] = useState<Making>({ kind: 'idle' });
  const end = useRef<AbortController>(undefined);
  useEffect(() => () => end.current?.abort(), []);
  const begin = (what: 'pages' | 'files') => {
    end.current?.abort();
    end.current = new AbortController();
    setMaking({ kind: 'making', what, done: 0, of: 0 });
    return end.current.signal;
  };
  return {
    making,
    stop: () => end.current?.abort(),
    reset: () => setMaking({ kind: 'idle' }),
    /** Pages that are kept by the server once they are made. */
    pages: async (address: string) => {
      const signal = begin('pages');
      try {
        const problem = await readLines(address, signal, (line) =>
          setMaking({ kind: 'making', what: 'pages', ...line }),
        );
        setMaking(problem === undefined ? { kind: 'ready', what: 'pages' } : { kind: 'failed', message: problem });
      } catch (error) {
        if (signal.aborted) setMaking({ kind: 'idle' });
        else if (error instanceof TypeError) setMaking({ kind: 'failed', message: BROKEN });
        else throw error;
      }
    },
    /** An archive that is saved by the browser once it is there. */
    archive: async (address: string, name: string) => {
      const signal = begin('files');
      const ended = await downloadArchive(address, name, signal, (done, of) =>
        setMaking({ kind: 'making', what: 'files', done, of }),
      );
      if (ended.kind === 'failed') setMaking(ended);
      else setMaking(ended.kind === 'saved' ? { kind: 'ready', what: 'files' } : { kind: 'idle' });
    },
  };
}

/** Reads an answer line by line as it comes. @returns why it was refused. @throws TypeError where the network fails */
async function readLines(
  address: string,
  signal: AbortSignal,
  onLine: (line: z.infer<typeof lineSchema>) => void,
): Promise<string | undefined> {
  const answer = await patientFetch(address, { signal });
  if (!answer.ok || !answer.body) {
    const refusal = (await answer.json().catch(() => ({}))) as { readonly messages?: readonly string[] };
    return refusal.messages?.[0] ?? BROKEN;
  }
  const reader = answer.body.pipeThrough(new TextDecoderStream()).getReader();
  let rest = '';
  let last: z.infer<typeof lineSchema> | undefined;
  for (let next = await reader.read(); !next.done; next = await reader.read()) {
    const lines = `${rest}${next.value}`.split('\n');
    rest = lines.pop() ?? '';
    for (const text of lines) {
      last = lineSchema.parse(JSON.parse(text));
      onLine(last);
    }
  }
  return last?.done === last?.of ? undefined : BROKEN;
}
