'use client';

import { autocompletion } from '@codemirror/autocomplete';
import { defaultKeymap, history, historyKeymap } from '@codemirror/commands';
import { HighlightStyle, StreamLanguage, syntaxHighlighting } from '@codemirror/language';
import { lintGutter, linter, type Diagnostic } from '@codemirror/lint';
import { EditorState, type Text } from '@codemirror/state';
import { drawSelection, EditorView, highlightActiveLine, keymap, lineNumbers } from '@codemirror/view';
import { tags } from '@lezer/highlight';
import { getNonce } from 'get-nonce';
import { useEffect, useRef, useState } from 'react';
import { type FormatProblem, formatProblemText, mergedWithText, readAbc, writeAbc } from '../../core/formats';
import type { Tune } from '../../core/score';

/** How long after the last key the text is read. */
const QUIET_MILLISECONDS = 180;

/** Signs of ABC for the eye: fields, chords, marks, barlines. */
const abcLanguage = StreamLanguage.define<{ readonly inField: boolean }>({
  startState: () => ({ inField: false }),
  token: (stream) => {
    if (stream.sol() && stream.match(/^[A-Za-z]:/)) return 'keyword';
    if (stream.match(/^%.*/)) return 'comment';
    if (stream.match(/^"[^"]*"?/)) return 'string';
    if (stream.match(/^![^!\s]*!/) || stream.match(/^\[[A-Za-z]:[^\]]*\]/)) return 'meta';
    if (stream.match(/^(:*\|[\]|:]*|\[\||::)/)) return 'bracket';
    if (stream.match(/^\((\d)(:\d*)*/)) return 'number';
    stream.next();
    return null;
  },
});

const colours = syntaxHighlighting(
  HighlightStyle.define([
    { tag: tags.keyword, color: '#2f5d62', fontWeight: '600' },
    { tag: tags.string, color: '#8a5414' },
    { tag: tags.meta, color: '#5b3a78' },
    { tag: tags.bracket, color: '#1d211f', fontWeight: '700' },
    { tag: tags.comment, color: '#63675d' },
    { tag: tags.number, color: '#2f5d62' },
  ]),
);

const look = EditorView.theme({
  '&': {
    fontSize: '13px',
    backgroundColor: '#fbf8ef',
    border: '1px solid #8f8d7c',
    borderRadius: '4px',
    maxHeight: '62vh',
  },
  '.cm-content': { fontFamily: 'ui-monospace, monospace', padding: '6px 0' },
  '.cm-gutters': { backgroundColor: '#f2efe3', color: '#555a52', border: 'none' },
  '.cm-activeLine': { backgroundColor: '#f3e3c655' },
  '&.cm-focused': { outline: '2px solid #8a5414' },
});

/** The tune as ABC text, live both ways. While the text cannot be read, the last good music stays. */
export function TextView({
  tune,
  onTune,
}: {
  readonly tune: Tune;
  readonly onTune: (tune: Tune, session: string) => void;
}) {
  const host = useRef<HTMLDivElement>(null);
  const view = useRef<EditorView>(undefined);
  const shown = useRef(tune);
  const session = useRef('');
  const callback = useRef(onTune);
  const [state, setState] = useState<{ readonly problems: number; readonly lost: readonly string[] }>({
    problems: 0,
    lost: [],
  });
  useEffect(() => {
    callback.current = onTune;
  }, [onTune]);

  useEffect(() => {
    if (!host.current) return undefined;
    let timer: ReturnType<typeof setTimeout> | undefined;
    let isOurs = false;
    const read = (text: string) => {
      const result = readAbc(text);
      setState((before) => ({ ...before, problems: result.ok ? 0 : result.problem.length }));
      if (!result.ok) return;
      const merged = mergedWithText(shown.current, result.value.tune);
      shown.current = merged;
      callback.current(merged, session.current);
    };
    const editor = new EditorView({
      parent: host.current,
      state: EditorState.create({
        doc: writeAbc(shown.current).text,
        extensions: [
          lineNumbers(),
          history(),
          drawSelection(),
          highlightActiveLine(),
          autocompletion(),
          abcLanguage,
          colours,
          look,
          lintGutter(),
          EditorView.lineWrapping,
          EditorView.cspNonce.of(getNonce() ?? ''),
          EditorView.contentAttributes.of({ 'aria-label': 'The tune as ABC text', spellcheck: 'false' }),
          // Tab leaves the editor, as everywhere on the bench.
          keymap.of([...defaultKeymap, ...historyKeymap]),
          linter((current) => diagnosticsOf(current.state.doc), { delay: QUIET_MILLISECONDS }),
          EditorView.updateListener.of((update) => {
            if (update.focusChanged) session.current = `text ${performance.now()}`;
            if (!update.docChanged || isOurs) return;
            clearTimeout(timer);
            timer = setTimeout(() => read(update.state.doc.toString()), QUIET_MILLISECONDS);
          }),
        ],
      }),
    });
    const replace = (text: string) => {
      isOurs = true;
      editor.dispatch({ changes: changedPart(editor.state.doc.toString(), text) });
      isOurs = false;
    };
    view.current = Object.assign(editor, { replaceText: replace });
    return () => {
      clearTimeout(timer);
      editor.destroy();
      view.current = undefined;
    };
  }, []);

  useEffect(() => {
    const written = writeAbc(tune);
    setState((before) => ({ ...before, lost: written.warnings.map(formatProblemText) }));
    if (tune === shown.current) return;
    shown.current = tune;
    const editor = view.current as (EditorView & { readonly replaceText: (text: string) => void }) | undefined;
    editor?.replaceText(written.text);
    setState((before) => ({ ...before, problems: 0 }));
  }, [tune]);

  return (
    <div>
      <div ref={host} />
      <p
        aria-live="polite"
        className={`mt-2 text-[13px] ${state.problems > 0 ? 'font-semibold text-warn' : 'text-ink-soft'}`}
      >
        {state.problems > 0
          ? `${state.problems === 1 ? 'One place' : `${state.problems} places`} cannot be read (underlined). The music shows the last text that could.`
          : 'The music follows the text, and the text the music.'}
      </p>
      {state.lost.length > 0 && (
        <details className="mt-2 text-[13px]">
          <summary className="cursor-pointer text-ink-soft">Kept, though not in the text ({state.lost.length})</summary>
          <ul className="mt-1 list-disc pl-5">
            {state.lost.map((text) => (
              <li key={text}>
                {text.replace(/^(.*)The format cannot hold /, '$1').replace(/^./, (letter) => letter.toUpperCase())}
              </li>
            ))}
          </ul>
        </details>
      )}
    </div>
  );
}

/** The one stretch in which two texts differ, so that the cursor stays where it is. */
function changedPart(
  before: string,
  after: string,
): { readonly from: number; readonly to: number; readonly insert: string } {
  let from = 0;
  while (from < before.length && from < after.length && before[from] === after[from]) from += 1;
  let end = 0;
  while (
    end < before.length - from &&
    end < after.length - from &&
    before[before.length - 1 - end] === after[after.length - 1 - end]
  )
    end += 1;
  return { from, to: before.length - end, insert: after.slice(from, after.length - end) };
}

function diagnosticsOf(doc: Text): readonly Diagnostic[] {
  const result = readAbc(doc.toString());
  const [list, severity] = result.ok ? [result.value.warnings, 'warning' as const] : [result.problem, 'error' as const];
  return list
    .filter(({ code }) => code !== 'other-voices')
    .map((problem) => ({ ...placeOf(problem, doc), severity, message: formatProblemText({ ...problem, place: {} }) }));
}

function placeOf({ place, found }: FormatProblem, doc: Text): { readonly from: number; readonly to: number } {
  const line = doc.line(Math.max(1, Math.min(doc.lines, place.line ?? 1)));
  if (place.column === undefined) return { from: line.from, to: Math.max(line.from + 1, line.to) };
  const from = Math.min(line.to, line.from + place.column - 1);
  return { from, to: Math.min(Math.max(line.to, from), from + Math.max(1, Math.min(found?.length ?? 1, 40))) };
}
