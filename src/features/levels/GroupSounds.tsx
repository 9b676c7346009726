'use client';

import { FileMusic, X } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { Button } from '../../ui/Button';
import { FilesInZip } from './filesInZip';

type Making =
  | { readonly kind: 'idle' }
  | { readonly kind: 'making'; readonly done: number; readonly of: number }
  | { readonly kind: 'failed'; readonly message: string };

/** Everybody's sounds in one archive: it is told how far it has come, and can be given up. */
export function GroupSounds({ address, name }: { readonly address: string; readonly name: string }) {
  const [making, setMaking] = useState<Making>({ kind: 'idle' });
  const end = useRef<AbortController>(undefined);
  useEffect(() => () => end.current?.abort(), []);
  const make = async () => {
    const own = new AbortController();
    end.current = own;
    setMaking({ kind: 'making', done: 0, of: 0 });
    try {
      const answer = await fetch(address, { signal: own.signal });
      if (!answer.ok || !answer.body) {
        const refusal = (await answer.json().catch(() => ({}))) as { readonly messages?: readonly string[] };
        setMaking({ kind: 'failed', message: refusal.messages?.[0] ?? 'The sounds could not be made.' });
        return;
      }
      const of = Number(answer.headers.get('x-reed-files') ?? 0);
      const files = new FilesInZip();
      const pieces: Uint8Array<ArrayBuffer>[] = [];
      const reader = answer.body.getReader();
      for (let next = await reader.read(); !next.done; next = await reader.read()) {
        pieces.push(next.value);
        setMaking({ kind: 'making', done: files.take(next.value), of });
      }
      const link = document.createElement('a');
      link.href = URL.createObjectURL(new Blob(pieces, { type: 'application/zip' }));
      link.download = name;
      link.click();
      setTimeout(() => URL.revokeObjectURL(link.href), 60_000);
      setMaking({ kind: 'idle' });
    } catch (error) {
      if (own.signal.aborted) setMaking({ kind: 'idle' });
      else if (error instanceof TypeError)
        setMaking({ kind: 'failed', message: 'The archive broke off: nothing was saved. Please try again.' });
      else throw error;
    }
  };
  if (making.kind === 'making')
    return (
      <span role="status" className="inline-flex min-h-9 items-center gap-2 text-[13.5px]">
        {making.of > 0 ? `${making.done} of ${making.of} sound files` : 'Sound files …'}
        <progress aria-label="Sound files made" max={Math.max(1, making.of)} value={making.done} className="w-20" />
        <Button aria-label="Stop making sound files" title="Stop" onClick={() => end.current?.abort()}>
          <X size={15} aria-hidden="true" />
        </Button>
      </span>
    );
  return (
    <>
      <Button
        className="min-h-9 px-3"
        title="A folder a player: slowly, at tempo, the backing alone, the click alone"
        onClick={() => void make()}
      >
        <FileMusic size={15} aria-hidden="true" />
        All as sound
      </Button>
      {making.kind === 'failed' && (
        <span role="alert" className="text-[13px] text-warn">
          {making.message}
        </span>
      )}
    </>
  );
}
