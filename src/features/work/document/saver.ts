'use client';

import { dequal } from 'dequal';
import type { SendProblem } from '../send';
import { success, type Result } from '../../../core/result';
import { cutText } from '../../../core/plainText';
import { backupState, readBackup, writeBackup, type Packing } from './backup';
import type { DocumentStore } from './documentStore';
import type { History } from './history';

/** How long after the last change a save begins. */
const QUIET_MILLISECONDS = 500;
/**
 * The backup is written this long after a change, or when the page is left: a large tune takes longer than a key stroke
 * may.
 */
const BACKUP_MILLISECONDS = 150;
const FIRST_RETRY_MILLISECONDS = 1_000;
const MAX_RETRY_MILLISECONDS = 8_000;

/** A document's version on the server. */
export interface Versioned<Document> {
  readonly version: number;
  readonly document: Document;
}

/** A save as it goes out. */
export interface Outgoing<Document> extends Versioned<Document> {
  /** What was changed since the last save, in the words of the steps. */
  readonly what: string;
  /** The same for each try of one save: one whose answer was lost is known by it. */
  readonly saveId: string;
}

/** Where a kind of document is saved. */
export interface Remote<Document> extends Packing<Document> {
  /** Tells documents of all kinds apart: `tune/the-tin-bucket`. */
  readonly name: string;
  /** Saves on top of a version; the answer is the new one. */
  readonly put: (next: Outgoing<Document>) => Promise<Result<number, SendProblem>>;
  /** What the server has, from its answer to a stale save. */
  readonly current: (answer: unknown) => Versioned<Document> | undefined;
}

/** Saves a document by itself, one save at a time, and tries again while the server or database is away. */
export class Saver<Document> {
  private timer: ReturnType<typeof setTimeout> | undefined;
  private backupTimer: ReturnType<typeof setTimeout> | undefined;
  private running = false;
  private sending: Document | undefined;
  private retry = FIRST_RETRY_MILLISECONDS;
  private version: number;
  private saved: Document;
  /** The save that was tried last, for when it is tried again. */
  private tried: { readonly document: Document; readonly version: number; readonly saveId: string } | undefined;
  private readonly stopWatching: () => void;

  /**
   * @param server what the server has; the store may be ahead of it, since a choice made before the page answered is
   * played back as it wakes
   */
  constructor(
    private readonly remote: Remote<Document>,
    server: Versioned<Document>,
    private readonly store: DocumentStore<Document>,
  ) {
    this.version = server.version;
    this.saved = server.document;
    this.stopWatching = store.subscribe((state, before) => {
      if (state.document === before.document) return;
      this.backupTimer ??= setTimeout(() => this.backup(), BACKUP_MILLISECONDS);
      if (state.save.kind !== 'conflict') this.plan(QUIET_MILLISECONDS);
    });
    if (typeof window !== 'undefined') window.addEventListener('pagehide', this.onLeave);
    if (store.getState().document !== this.saved) this.plan(QUIET_MILLISECONDS);
  }

  /**
   * Goes on with what could not be saved before the page was closed; where somebody else saved meanwhile, a person
   * decides.
   */
  recover(name: string): void {
    const server = { version: this.version, document: this.saved };
    const backup = readBackup(this.remote.name, this.remote);
    const found = backup && backupState(backup, server, dequal);
    if (!backup || found === 'same') return;
    this.store.getState().change(name, backup.document);
    if (found === 'conflict')
      this.store.getState().setSave({ kind: 'conflict', version: server.version, theirs: server.document });
  }

  stop(): void {
    this.stopWatching();
    if (this.backupTimer) this.backup();
    if (typeof window !== 'undefined') window.removeEventListener('pagehide', this.onLeave);
    clearTimeout(this.timer);
  }

  private readonly onLeave = () => {
    if (this.backupTimer) this.backup();
  };

  private backup(): void {
    clearTimeout(this.backupTimer);
    this.backupTimer = undefined;
    const { document } = this.store.getState();
    const { version, sending: sent } = this;
    this.write(document === this.saved ? undefined : { version, document, ...(sent && { sent }) });
  }

  private write(backup: Parameters<typeof writeBackup<Document>>[1]): void {
    writeBackup(this.remote.name, backup, this.remote);
  }

  /** Saves at once; true when everything is on the server. */
  async flush(): Promise<boolean> {
    clearTimeout(this.timer);
    while (this.running) await new Promise((done) => setTimeout(done, 40));
    await this.run();
    return this.store.getState().save.kind === 'saved';
  }

  /** After a conflict: saves what stands here over what the server has. */
  overwrite(version: number): void {
    this.version = version;
    this.store.getState().setSave({ kind: 'unsaved' });
    this.plan(0);
  }

  /** After a conflict: goes on from what the server has. */
  adopt({ version, document }: Versioned<Document>): void {
    this.version = version;
    this.saved = document;
    this.write(undefined);
    this.store.getState().replace(document);
  }

  private plan(milliseconds: number): void {
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.run(), milliseconds);
  }

  private async run(): Promise<void> {
    if (this.backupTimer) this.backup();
    const { document, setSave, save } = this.store.getState();
    if (this.running || save.kind === 'conflict') return;
    if (document === this.saved) {
      // Undone while a save was waiting: nothing is left to send.
      this.write(undefined);
      setSave({ kind: 'saved' });
      return;
    }
    this.running = true;
    this.sending = document;
    if (save.kind !== 'waiting') setSave({ kind: 'saving' });
    try {
      this.settle(document, await this.remote.put(this.outgoing(document)));
    } finally {
      this.running = false;
      this.sending = undefined;
    }
  }

  private outgoing(document: Document): Outgoing<Document> {
    const { version, tried } = this;
    const isSame = tried?.document === document && tried.version === version;
    const saveId = isSame ? tried.saveId : crypto.randomUUID();
    this.tried = { document, version, saveId };
    return { version, document, what: changesSince(this.store.getState(), this.saved), saveId };
  }

  private settle(document: Document, answer: Result<number, SendProblem>): void {
    const { setSave } = this.store.getState();
    if (answer.ok) {
      this.version = answer.value;
      this.saved = document;
      this.retry = FIRST_RETRY_MILLISECONDS;
      const now = this.store.getState().document;
      this.write(now === document ? undefined : { version: this.version, document: now });
      setSave({ kind: now === document ? 'saved' : 'unsaved' });
      if (now !== document) this.plan(QUIET_MILLISECONDS);
      return;
    }
    const { kind, message, answer: sent } = answer.problem;
    const current = kind === 'stale' ? this.remote.current(sent) : undefined;
    // What stands there is what was sent: the answer to it was lost.
    if (current && dequal(current.document, document)) this.settle(document, success(current.version));
    else if (current) setSave({ kind: 'conflict', version: current.version, theirs: current.document });
    else if (kind === 'away') {
      setSave({ kind: 'waiting', message });
      this.plan(this.retry);
      this.retry = Math.min(MAX_RETRY_MILLISECONDS, this.retry * 1.6);
    } else setSave({ kind: 'refused', message });
  }
}

const MAX_WORDS = 900;

/** What was done to a document since it was last saved, each kind of step once, oldest first. */
function changesSince<Document>({ past, future }: History<Document>, saved: Document): string {
  const from = past.findLastIndex(({ after }) => after === saved) + 1;
  const undoneTo = from > 0 ? -1 : future.findIndex(({ after }) => after === saved);
  const names =
    undoneTo >= 0
      ? future.slice(0, undoneTo + 1).map(({ name }) => `undone: ${name}`)
      : past.slice(from).map(({ name }) => name);
  const words = [...new Set(names)].join(', ');
  return words.length <= MAX_WORDS ? words : `${cutText(words, MAX_WORDS)} …`;
}
