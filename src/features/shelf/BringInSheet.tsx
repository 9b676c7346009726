'use client';

import { wrap, type Remote } from 'comlink';
import { useEffect, useRef, useState, type DragEvent } from 'react';
import { z } from 'zod';
import { MAX_BYTES } from '../../core/score';
import { Button } from '../../ui/Button';
import { Sheet } from '../../ui/Sheet';
import { archiveText, bringBackArchive } from '../work/archive';
import { send } from '../work/send';
import type { ImportDoor } from './import.worker';
import { ImportChoices } from './ImportChoices';
import type { Chosen, Preview } from './importPreview';

type Look =
  | { readonly kind: 'nothing' }
  | { readonly kind: 'reading' }
  | { readonly kind: 'read'; readonly preview: Preview; readonly rows: readonly string[] | undefined }
  /** The archive of a whole studio; what came of it in words, once it was sent. */
  | { readonly kind: 'archive'; readonly words: readonly string[] }
  | { readonly kind: 'refused'; readonly messages: readonly string[] };

interface Brought {
  readonly name: string;
  readonly data: Blob;
}

/** Paste, pick or drop a tune; see what was understood; save it to the shelf. Nothing is saved before that. */
export function BringInSheet({
  onClose,
  onSaved,
  onBroughtBack,
}: {
  readonly onClose: () => void;
  readonly onSaved: (id: string) => void;
  /** After an archive was taken back. */
  readonly onBroughtBack: () => void;
}) {
  const [text, setText] = useState('');
  const [file, setFile] = useState<Brought>();
  const [chosen, setChosen] = useState<Chosen>({});
  const [look, setLook] = useState<Look>({ kind: 'nothing' });
  const [isSaving, setSaving] = useState(false);
  const [isOver, setOver] = useState(false);
  const picker = useRef<HTMLInputElement>(null);
  const [reader] = useState(() => new TuneReader());
  const brought: Brought | undefined = file ?? (text.trim() ? { name: '', data: new Blob([text]) } : undefined);

  useEffect(() => {
    if (!file && !text.trim()) {
      setLook({ kind: 'nothing' });
      return undefined;
    }
    let isNewest = true;
    // The last look stays while another choice is read, so that its fields do not jump away.
    setLook((before) => (before.kind === 'read' && Object.keys(chosen).length > 0 ? before : { kind: 'reading' }));
    const source: Brought = file ?? { name: '', data: new Blob([text]) };
    if (isArchive(source)) {
      setLook({ kind: 'archive', words: [] });
      return undefined;
    }
    const timer = setTimeout(
      () => {
        void reader.read(source, chosen, (next) => {
          if (isNewest) setLook(next);
        });
      },
      file ? 0 : 350,
    );
    return () => {
      clearTimeout(timer);
      isNewest = false;
    };
  }, [file, text, chosen, reader]);

  useEffect(() => () => reader.close(), [reader]);

  const take = (taken: File | undefined) => {
    if (!taken) return;
    setText('');
    setChosen({});
    setFile({ name: taken.name, data: taken });
  };
  const onDrop = (event: DragEvent) => {
    event.preventDefault();
    setOver(false);
    take(event.dataTransfer.files[0]);
  };
  const save = async () => {
    if (!brought) return;
    setSaving(true);
    if (isArchive(brought)) {
      const back = await bringBackArchive(brought.data);
      setSaving(false);
      setLook(
        back.ok
          ? { kind: 'archive', words: archiveText(back.value) }
          : { kind: 'refused', messages: [back.problem.message, 'Nothing was changed.'] },
      );
      if (back.ok) onBroughtBack();
      return;
    }
    const query = new URLSearchParams({ name: brought.name, ...chosen }).toString();
    const bytes = new Uint8Array(await brought.data.arrayBuffer());
    const made = await send(`/api/tunes?${query}`, z.object({ id: z.string() }), { method: 'POST', bytes });
    setSaving(false);
    if (made.ok) onSaved(made.value.id);
    else
      setLook({
        kind: 'refused',
        messages: [made.problem.message, 'Nothing was saved; what you brought is still here.'],
      });
  };

  return (
    <Sheet
      open
      onClose={onClose}
      title="Bring in a tune"
      description="ABC or MusicXML pasted, or a file: these, compressed .mxl, MIDI or .reed.json, or the archive of a studio. You see it before it is saved."
      width="max-w-5xl"
    >
      <div className="grid min-h-0 flex-1 gap-5 overflow-y-auto md:grid-cols-[minmax(0,2fr)_minmax(0,3fr)] md:overflow-visible">
        <div
          className={`flex min-h-0 flex-col rounded border-2 border-dashed p-3 ${isOver ? 'border-cane bg-cane-pale' : 'border-line'}`}
          onDragOver={(event) => {
            event.preventDefault();
            setOver(true);
          }}
          onDragLeave={() => setOver(false)}
          onDrop={onDrop}
        >
          <label htmlFor="brought-text" className="mb-1 font-medium">
            {file ? 'From the file' : 'Paste it here, or drop a file'}
          </label>
          {file ? (
            <div className="flex flex-1 flex-col items-center justify-center gap-3 rounded bg-paper p-4 text-center">
              <p className="break-all">{file.name}</p>
              <Button onClick={() => setFile(undefined)}>Paste text instead</Button>
            </div>
          ) : (
            <textarea
              id="brought-text"
              value={text}
              onChange={(event) => {
                setChosen({});
                setText(event.target.value);
              }}
              spellCheck={false}
              className="min-h-72 w-full flex-1 resize-none rounded border border-edge bg-paper p-2 font-mono text-[13px] leading-5"
              placeholder={'X:1\nT:A tune of yours\nM:4/4\nL:1/8\nK:G\nG2 AB d2 BA | …'}
            />
          )}
          <div className="mt-2">
            <input
              ref={picker}
              type="file"
              accept=".abc,.musicxml,.xml,.mxl,.mid,.midi,.json,.txt,.zip"
              className="sr-only"
              tabIndex={-1}
              aria-hidden="true"
              onChange={(event) => {
                take(event.target.files?.[0]);
                event.target.value = '';
              }}
            />
            <Button onClick={() => picker.current?.click()}>Choose a file …</Button>
          </div>
        </div>
        <div className="min-h-0 overflow-y-auto" aria-live="polite">
          <Understood
            look={look}
            onChoose={(name, value) => setChosen((before) => ({ ...(name === 'tune' ? {} : before), [name]: value }))}
          />
        </div>
      </div>
      <div className="mt-4 flex justify-end gap-2 border-t border-line pt-3">
        <Button kind="quiet" onClick={onClose}>
          Cancel
        </Button>
        <Button kind="main" disabled={!canSave(look) || isSaving} onClick={() => void save()}>
          {look.kind === 'archive' ? 'Bring it back' : 'Save to the shelf'}
        </Button>
      </div>
    </Sheet>
  );
}

/** An archive of our own goes by its name: a compressed score is called .mxl. */
function isArchive({ name }: Brought): boolean {
  return /\.zip$/i.test(name);
}

function canSave(look: Look): boolean {
  return look.kind === 'read' || (look.kind === 'archive' && look.words.length === 0);
}

/** Reads files in a worker, which is started with the first of them. */
class TuneReader {
  private worker: Worker | undefined;
  private door: Remote<ImportDoor> | undefined;

  /** Tells what was understood, and again when its first lines are drawn. */
  async read({ name, data }: Brought, chosen: Chosen, tell: (look: Look) => void): Promise<void> {
    if (data.size > MAX_BYTES) {
      const size = (data.size / 1_048_576).toFixed(1);
      tell({ kind: 'refused', messages: [`The file has ${size} MB; at most ${MAX_BYTES / 1_048_576} MB are read.`] });
      return;
    }
    this.worker ??= new Worker(new URL('./import.worker.ts', import.meta.url), { type: 'module' });
    const door = (this.door ??= wrap<ImportDoor>(this.worker));
    const read = await door.read(new Uint8Array(await data.arrayBuffer()), name, chosen);
    if (!read.ok) return tell({ kind: 'refused', messages: read.problem });
    tell({ kind: 'read', preview: read.value, rows: undefined });
    tell({ kind: 'read', preview: read.value, rows: await door.rows() });
  }

  close(): void {
    this.worker?.terminate();
    this.worker = undefined;
    this.door = undefined;
  }
}

function Understood({
  look,
  onChoose,
}: {
  readonly look: Look;
  readonly onChoose: (name: string, value: string) => void;
}) {
  switch (look.kind) {
    case 'nothing':
      return <p className="p-4 text-ink-soft">What was understood is shown here.</p>;
    case 'reading':
      return <p className="p-4 text-ink-soft">Reading …</p>;
    case 'archive':
      return (
        <div className="rounded bg-paper p-4">
          <h3 className="font-serif text-lg font-semibold">The archive of a studio</h3>
          {look.words.length === 0 ? (
            <p>Its tunes, groups, recipes and instruments are added to yours; what is there already stays as it is.</p>
          ) : (
            <ul>
              {look.words.map((word) => (
                <li key={word} className="break-words">
                  {word}
                </li>
              ))}
            </ul>
          )}
        </div>
      );
    case 'refused':
      return (
        <div role="alert" className="rounded bg-warn-pale p-4">
          <h3 className="font-semibold text-warn">This cannot be read yet</h3>
          <ul className="mt-1 list-disc pl-5">
            {look.messages.map((message, index) => (
              <li key={index} className="break-words">
                {message}
              </li>
            ))}
          </ul>
        </div>
      );
    case 'read':
      return (
        <div className="rounded bg-paper p-4">
          <h3 className="font-serif text-lg font-semibold">{look.preview.title || 'Untitled'}</h3>
          <p className="text-ink-soft">
            {[
              look.preview.composer,
              look.preview.keyName,
              look.preview.meter,
              look.preview.bars === 1 ? '1 bar' : `${look.preview.bars} bars`,
            ]
              .filter(Boolean)
              .join(' · ')}
          </p>
          <ImportChoices
            choices={look.preview.choices}
            {...(look.preview.guesses && { guesses: look.preview.guesses })}
            onChoose={onChoose}
          />
          <div className="music my-2 min-h-24" aria-busy={look.rows === undefined}>
            {look.rows?.map((svg, index) => (
              <div key={index} dangerouslySetInnerHTML={{ __html: svg }} />
            ))}
            {look.rows === undefined && <p className="text-ink-soft">Drawing the first lines …</p>}
          </div>
          <h4 className="font-semibold">
            {look.preview.warnings.length === 0 ? 'All of it was understood.' : 'Not understood, or changed:'}
          </h4>
          <ul className="mt-1 list-disc pl-5 text-[13px]">
            {look.preview.warnings.map((warning, index) => (
              <li key={index} className="break-words">
                {warning}
              </li>
            ))}
          </ul>
        </div>
      );
  }
}
