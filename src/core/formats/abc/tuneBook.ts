/** A line with its number in the file, comments and continuation marks still on it. */
export interface NumberedLine {
  readonly text: string;
  readonly number: number;
}

/** One tune of a book: what stands before its key field, and its music. */
export interface AbcTune {
  readonly reference: string;
  readonly lines: readonly NumberedLine[];
}

/**
 * Cuts a tune book into its tunes: each begins with `X:` and ends at the next one.
 * (An empty line ends a tune by ABC 2.1; many files have one inside, so only lines that look like text after it are left out.)
 * A file without `X:` but with `K:` is one tune.
 */
export function tunesOfBook(text: string): readonly AbcTune[] {
  const lines = text.split(/\r\n|\n|\r/).map((line, index): NumberedLine => ({ text: line, number: index + 1 }));
  const starts = lines.filter((line) => /^X:/.test(line.text));
  if (starts.length === 0)
    return lines.some((line) => /^K:/.test(line.text)) ? [{ reference: '', lines: untilBlank(lines) }] : [];
  return starts.map((start, k) => {
    const end = starts[k + 1]?.number ?? lines.length + 1;
    return { reference: start.text.slice(2).trim(), lines: untilBlank(lines.slice(start.number - 1, end - 1)) };
  });
}

/** Up to the first empty line after the key; free text between tunes is not music. */
function untilBlank(lines: readonly NumberedLine[]): readonly NumberedLine[] {
  const key = lines.findIndex((line) => /^K:/.test(line.text));
  if (key < 0) return lines;
  const blank = lines.findIndex((line, index) => index > key && line.text.trim() === '');
  return blank < 0 ? lines : lines.slice(0, blank);
}

export interface AbcVoice {
  readonly id: string;
  readonly name: string;
}

/** The voices named by `V:` fields, in the order in which they are met; empty where there are none. */
export function voicesOf(lines: readonly NumberedLine[]): readonly AbcVoice[] {
  const found = new Map<string, string>();
  for (const { text } of lines) {
    const whole = /^V:\s*(\S+)(.*)$/.exec(text);
    const fields = whole ? [whole] : [...text.matchAll(/\[V:\s*([^\s\]]+)([^\]]*)\]/g)];
    for (const [, id = '', rest = ''] of fields) {
      const name = /(?:^|\s)(?:name|nm)="([^"]*)"/.exec(rest)?.[1]?.trim();
      if (name || !found.has(id)) found.set(id, name || found.get(id) || `Voice ${id}`);
    }
  }
  return [...found].map(([id, name]) => ({ id, name }));
}

/** The title in a tune's header, for choosing from a book. */
export function titleOf({ lines, reference }: AbcTune): string {
  const title = lines
    .find(({ text }) => /^T:\s*\S/.test(text))
    ?.text.slice(2)
    .trim();
  return title ?? (reference ? `Number ${reference}` : '');
}
