/** A document that could not be saved before its page was closed, as it lies in the browser. */
export interface Backup<Document> {
  /** The version on the server that it started from. */
  readonly version: number;
  readonly document: Document;
  /** What was on its way to the server when the page was left; it may have arrived. */
  readonly sent?: Document;
}

/** How a kind of document is written to the browser's storage and read back. */
export interface Packing<Document> {
  readonly pack: (document: Document) => unknown;
  /** `undefined` for what is no such document. */
  readonly unpack: (data: unknown) => Document | undefined;
}

const keyOf = (name: string) => `reed-hook:unsaved:${name}`;

export function readBackup<Document>(name: string, { unpack }: Packing<Document>): Backup<Document> | undefined {
  let data: unknown;
  try {
    data = JSON.parse(localStorage.getItem(keyOf(name)) ?? 'null');
  } catch {
    // No storage, or something foreign in it: there is no backup then.
    return undefined;
  }
  if (typeof data !== 'object' || data === null || !('version' in data) || typeof data.version !== 'number')
    return undefined;
  // Until documents of other kinds were backed up too, the field was called `work`.
  const packed = 'document' in data ? data.document : 'work' in data ? data.work : undefined;
  const document = unpack(packed);
  const sent = 'sent' in data ? unpack(data.sent) : undefined;
  return document && { version: data.version, document, ...(sent && { sent }) };
}

export function writeBackup<Document>(
  name: string,
  backup: Backup<Document> | undefined,
  { pack }: Packing<Document>,
): void {
  try {
    if (!backup) localStorage.removeItem(keyOf(name));
    else {
      const { version, document, sent } = backup;
      const packed = { version, document: pack(document), ...(sent && { sent: pack(sent) }) };
      localStorage.setItem(keyOf(name), JSON.stringify(packed));
    }
  } catch {
    // Storage may be full or forbidden; the document is still on the page and the status line says that it is not
    // saved.
  }
}

/** What a backup means beside what the server has: nothing new, to be gone on with, or somebody else's save between. */
export function backupState<Document>(
  { version, document, sent }: Backup<Document>,
  server: { readonly version: number; readonly document: Document },
  isSame: (a: Document, b: Document) => boolean,
): 'same' | 'newer' | 'conflict' {
  if (isSame(document, server.document)) return 'same';
  if (version === server.version) return 'newer';
  // Our own save that was still on its way arrived after the backup was written.
  return version + 1 === server.version && sent && isSame(sent, server.document) ? 'newer' : 'conflict';
}
