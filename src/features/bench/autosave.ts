'use client';

import { storedWork } from '../../core/formats/json/upgradeRecipe';
import type { Work } from '../../core/levels/recipe/work';
import type { BenchStore } from './benchStore';

/** How long after the last change a save begins. */
const QUIET_MILLISECONDS = 500;
/** The copy in the browser is written this long after a change, or when the page is left: a large tune takes longer than a key stroke may. */
const BACKUP_MILLISECONDS = 150;
const FIRST_RETRY_MILLISECONDS = 1_000;
const LONGEST_RETRY_MILLISECONDS = 8_000;

interface Backup {
  readonly version: number;
  readonly work: Work;
  /** What was on its way to the server when the page was left; it may have arrived. */
  readonly sent?: Work;
}

const backupName = (id: string) => `reed-hook:unsaved:${id}`;

/** Work that could not be saved before this page was closed, kept in the browser. */
export function backupOf(id: string): Backup | undefined {
  try {
    const text = localStorage.getItem(backupName(id));
    return text === null ? undefined : (JSON.parse(text) as Backup);
  } catch {
    // No storage, or something foreign in it: there is no backup then.
    return undefined;
  }
}

/** What a kept copy means beside what the server has: nothing new, to be gone on with, or somebody else's save between. */
export function backupState(
  { version, work, sent }: Backup,
  server: { readonly version: number; readonly work: Work },
): 'same' | 'newer' | 'conflict' {
  if (inOrder(work) === inOrder(server.work)) return 'same';
  if (version === server.version) return 'newer';
  // Our own save that was still on its way arrived after the copy was written.
  return version + 1 === server.version && sent && inOrder(sent) === inOrder(server.work) ? 'newer' : 'conflict';
}

/** A work as text with its fields in order: what went through the server has them in another. */
function inOrder(work: Work): string {
  return JSON.stringify(work, (_, value: unknown) =>
    value !== null && typeof value === 'object' && !Array.isArray(value)
      ? Object.fromEntries(Object.entries(value).toSorted(([a], [b]) => (a < b ? -1 : 1)))
      : value,
  );
}

function writeBackup(id: string, backup: Backup | undefined): void {
  try {
    if (backup) localStorage.setItem(backupName(id), JSON.stringify(backup));
    else localStorage.removeItem(backupName(id));
  } catch {
    // Storage may be full or forbidden; the work is still on the page and the status line says that it is not saved.
  }
}

/** Saves the bench by itself, one save at a time, and tries again while the server or database is away. */
export class Autosave {
  private timer: ReturnType<typeof setTimeout> | undefined;
  private backupTimer: ReturnType<typeof setTimeout> | undefined;
  private running = false;
  private sending: Work | undefined;
  private retry = FIRST_RETRY_MILLISECONDS;
  private version: number;
  private saved: Work;
  private readonly stopWatching: () => void;

  /** @param server what the server has; the store may be ahead of it, since a choice made before the page answered is played back as it wakes */
  constructor(
    private readonly id: string,
    server: { readonly version: number; readonly work: Work },
    private readonly store: BenchStore,
  ) {
    this.version = server.version;
    this.saved = server.work;
    this.stopWatching = store.subscribe((state, before) => {
      if (state.work === before.work) return;
      this.backupTimer ??= setTimeout(() => this.backup(), BACKUP_MILLISECONDS);
      if (state.save.kind !== 'conflict') this.plan(QUIET_MILLISECONDS);
    });
    if (typeof window !== 'undefined') window.addEventListener('pagehide', this.onLeave);
    if (store.getState().work !== this.saved) this.plan(QUIET_MILLISECONDS);
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
    const { work } = this.store.getState();
    writeBackup(
      this.id,
      work === this.saved ? undefined : { version: this.version, work, ...(this.sending && { sent: this.sending }) },
    );
  }

  /** Saves at once; true when everything is on the server. */
  async flush(): Promise<boolean> {
    clearTimeout(this.timer);
    while (this.running) await new Promise((done) => setTimeout(done, 40));
    await this.run();
    return this.store.getState().save.kind === 'saved';
  }

  /** After a conflict: saves what is on the bench over what the server has. */
  overwrite(version: number): void {
    this.version = version;
    this.store.getState().setSave({ kind: 'unsaved' });
    this.plan(0);
  }

  /** After a conflict: goes on from what the server has. */
  adopt(version: number, work: Work): void {
    this.version = version;
    this.saved = work;
    writeBackup(this.id, undefined);
    this.store.getState().replace(work);
  }

  private plan(milliseconds: number): void {
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.run(), milliseconds);
  }

  private async run(): Promise<void> {
    if (this.backupTimer) this.backup();
    const { work, setSave, save } = this.store.getState();
    if (this.running || save.kind === 'conflict') return;
    if (work === this.saved) {
      setSave({ kind: 'saved' });
      return;
    }
    this.running = true;
    this.sending = work;
    if (save.kind !== 'waiting') setSave({ kind: 'saving' });
    try {
      await this.send(work);
    } finally {
      this.running = false;
      this.sending = undefined;
    }
  }

  private async send(work: Work): Promise<void> {
    const { setSave } = this.store.getState();
    let response: Response;
    try {
      response = await fetch(`/api/tunes/${this.id}`, {
        method: 'PUT',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ version: this.version, work: storedWork(work) }),
      });
    } catch (error) {
      if (!(error instanceof TypeError)) throw error;
      return this.wait('The program does not answer.');
    }
    const answer = (await response.json().catch(() => ({}))) as {
      version?: number;
      work?: Work;
      messages?: readonly string[];
    };
    const message = answer.messages?.join(' ') ?? `The server answered ${response.status}.`;
    if (response.ok && answer.version !== undefined) {
      this.version = answer.version;
      this.saved = work;
      this.retry = FIRST_RETRY_MILLISECONDS;
      const isLatest = this.store.getState().work === work;
      writeBackup(this.id, isLatest ? undefined : { version: this.version, work: this.store.getState().work });
      setSave({ kind: isLatest ? 'saved' : 'unsaved' });
      if (!isLatest) this.plan(QUIET_MILLISECONDS);
    } else if (response.status === 409 && answer.version !== undefined && answer.work) {
      setSave({ kind: 'conflict', version: answer.version, theirs: answer.work });
    } else if (response.status >= 500) this.wait(message);
    else setSave({ kind: 'refused', message });
  }

  private wait(message: string): void {
    this.store.getState().setSave({ kind: 'waiting', message });
    this.plan(this.retry);
    this.retry = Math.min(LONGEST_RETRY_MILLISECONDS, this.retry * 1.6);
  }
}
