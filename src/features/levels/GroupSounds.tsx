'use client';

import { FileMusic, X } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { Button } from '../../ui/Button';
import { downloadArchive } from '../work/downloadArchive';

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
    const ended = await downloadArchive(address, name, own.signal, (done, of) =>
      setMaking({ kind: 'making', done, of }),
    );
    setMaking(ended.kind === 'failed' ? ended : { kind: 'idle' });
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
