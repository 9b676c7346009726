import { SaxesParser } from 'saxes';
import { MOST_XML_DEPTH } from '../limits';
import type { FormatProblem } from '../problem';

/** An element with what stands in it. Text of mixed content is joined. */
export interface XmlElement {
  readonly name: string;
  readonly attributes: Readonly<Record<string, string>>;
  readonly children: readonly XmlElement[];
  readonly text: string;
  readonly line: number;
}

interface OpenElement {
  readonly name: string;
  readonly attributes: Readonly<Record<string, string>>;
  readonly children: XmlElement[];
  text: string;
  readonly line: number;
}

class Refused extends Error {
  constructor(readonly problem: FormatProblem) {
    super(problem.code);
  }
}

/**
 * Reads strict XML to a tree. Entity declarations are refused, so nothing can be expanded or fetched;
 * depth is limited; the first fault ends the reading.
 */
export function readXml(text: string): { readonly ok: true; readonly root: XmlElement } | { readonly ok: false; readonly problem: FormatProblem } {
  const parser = new SaxesParser({ position: true, xmlns: false });
  const open: OpenElement[] = [];
  let root: XmlElement | undefined;
  const refuse = (problem: FormatProblem) => { throw new Refused(problem); };
  parser.on('doctype', (doctype) => {
    if (/<!ENTITY|\[/i.test(doctype)) refuse({ code: 'entities-refused', place: { line: parser.line }, right: 'take the DOCTYPE with its brackets out' });
  });
  parser.on('error', (error) => {
    // saxes puts line:column before its message; the place is told apart from the sentence here.
    refuse({ code: 'bad-xml', place: { line: parser.line, column: parser.column + 1 }, found: error.message.replace(/^\d+:\d+:\s*/, ''), right: 'save the file again from the program it came from' });
  });
  parser.on('opentag', (tag) => {
    if (open.length >= MOST_XML_DEPTH) refuse({ code: 'bad-xml', place: { line: parser.line }, found: 'elements nested too deeply', right: `at most ${MOST_XML_DEPTH} levels are read` });
    open.push({ name: tag.name, attributes: tag.attributes, children: [], text: '', line: parser.line });
  });
  parser.on('text', (words) => {
    const current = open.at(-1);
    if (current && current.text.length < 20_000) current.text += words;
  });
  parser.on('cdata', (words) => {
    const current = open.at(-1);
    if (current) current.text += words;
  });
  parser.on('closetag', () => {
    const done = open.pop();
    if (!done) return;
    const parent = open.at(-1);
    if (parent) parent.children.push(done);
    else root = done;
  });
  try {
    parser.write(text).close();
  } catch (error) {
    if (error instanceof Refused) return { ok: false, problem: error.problem };
    throw error;
  }
  return root ? { ok: true, root } : { ok: false, problem: { code: 'bad-xml', place: { line: 1 }, found: 'no element', right: 'a MusicXML file begins with <score-partwise>' } };
}

export function child(element: XmlElement | undefined, name: string): XmlElement | undefined {
  return element?.children.find((one) => one.name === name);
}

export function childrenOf(element: XmlElement | undefined, name: string): readonly XmlElement[] {
  return element?.children.filter((one) => one.name === name) ?? [];
}

/** Trimmed text of a child; `undefined` when there is no such child or it is empty. */
export function textOf(element: XmlElement | undefined, ...path: readonly string[]): string | undefined {
  const found = path.reduce<XmlElement | undefined>((current, name) => child(current, name), element);
  const text = found?.text.trim();
  return text === '' ? undefined : text;
}

/** A finite number in a child, or `undefined`. */
export function numberIn(element: XmlElement | undefined, ...path: readonly string[]): number | undefined {
  const text = textOf(element, ...path);
  if (text === undefined || !/^[+-]?\d+(\.\d+)?$/.test(text)) return undefined;
  return Number(text);
}
