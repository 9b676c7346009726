import { spend } from '../effort';

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
 * Cuts a tune book into its tunes: each begins with `X:` and ends at the next one. (An empty line ends a tune by ABC
 * 2.1; many files have one inside, so only lines that look like text after it are left out.) A file without `X:` but
 * with `K:` is one tune.
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
    for (const field of voiceFields(text)) {
      const [, id = '', rest = ''] = /^(\S+)(.*)$/.exec(field) ?? [];
      if (id === '') continue;
      const name = /(?:^|\s)(?:name|nm)="([^"]*)"/.exec(rest)?.[1]?.trim();
      if (name || !found.has(id)) found.set(id, name || found.get(id) || `Voice ${id}`);
    }
  }
  return [...found].map(([id, name]) => ({ id, name }));
}

/** A line up to its comment, which begins with a percent sign that no backslash takes for a letter. */
export function withoutComment(text: string): string {
  for (let at = text.indexOf('%'); at >= 0; at = text.indexOf('%', at + 1))
    if (at === 0 || text[at - 1] !== '\\') return text.slice(0, at);
  return text;
}

/**
 * What stands in the voice fields of a line: a field of its own, or those in brackets, each up to the next closing one.
 */
function voiceFields(text: string): readonly string[] {
  if (text.startsWith('V:')) return [text.slice(2).trim()];
  const fields: string[] = [];
  for (let at = text.indexOf('[V:'); at >= 0;) {
    const close = text.indexOf(']', at);
    if (close < 0) break;
    spend();
    fields.push(text.slice(at + 3, close).trim());
    at = text.indexOf('[V:', close);
  }
  return fields;
}

/** The title in a tune's header, for choosing from a book. */
export function titleOf({ lines, reference }: AbcTune): string {
  const title = lines
    .find(({ text }) => /^T:\s*\S/.test(text))
    ?.text.slice(2)
    .trim();
  return title ?? (reference ? `Number ${reference}` : '');
}
