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
  if (starts.length === 0) return lines.some((line) => /^K:/.test(line.text)) ? [{ reference: '', lines: untilBlank(lines) }] : [];
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
