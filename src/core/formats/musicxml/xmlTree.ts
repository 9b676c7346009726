import { SaxesParser } from 'saxes';
import { spend } from '../effort';
import { MAX_XML_DEPTH } from '../../score';
import { failure, success, type Result } from '../../result';
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
  children: XmlElement[];
  text: string;
  readonly line: number;
}

class Refused extends Error {
  constructor(readonly problem: FormatProblem) {
    super(problem.code);
  }
}

const NO_CHILDREN: XmlElement[] = [];
/** One for all elements without any: most have none, and a long score has a hundred thousand elements. */
const NO_ATTRIBUTES: Readonly<Record<string, string>> = {};

/**
 * Reads strict XML to a tree. Entity declarations are refused, so nothing can be expanded or fetched;
 * depth is limited; the first fault ends the reading.
 * @param take is handed each element as it closes, with its parent's name and attributes; one that it takes is left out
 *   of the tree, so that a long score need not be held twice
 */
export function readXml(
  text: string,
  take?: (element: XmlElement, parent: Pick<XmlElement, 'name' | 'attributes'>) => boolean,
): Result<XmlElement, FormatProblem> {
  const parser = new SaxesParser({ position: true, xmlns: false });
  const open: OpenElement[] = [];
  // A score has a few names of elements and a hundred thousand elements: each name is kept once, and then told apart at
  // a glance.
  const names = Object.create(null) as Record<string, string>;
  let hasAttributes = false;
  let root: XmlElement | undefined;
  const refuse = (problem: FormatProblem) => {
    throw new Refused(problem);
  };
  parser.on('doctype', (doctype) => {
    if (/<!ENTITY|\[/i.test(doctype))
      refuse({
        code: 'entities-refused',
        place: { line: parser.line },
        right: 'take the DOCTYPE with its brackets out',
      });
  });
  parser.on('error', (error) => {
    // saxes puts line:column before its message; the place is told apart from the sentence here.
    refuse({
      code: 'bad-xml',
      place: { line: parser.line, column: parser.column + 1 },
      found: error.message.replace(/^\d+:\d+:\s*/, ''),
      right: 'save the file again from the program it came from',
    });
  });
  parser.on('opentag', (tag) => {
    spend();
    if (open.length >= MAX_XML_DEPTH)
      refuse({
        code: 'bad-xml',
        place: { line: parser.line },
        found: 'elements nested too deeply',
        right: `at most ${MAX_XML_DEPTH} levels are read`,
      });
    open.push({
      name: (names[tag.name] ??= tag.name),
      attributes: hasAttributes ? tag.attributes : NO_ATTRIBUTES,
      children: NO_CHILDREN,
      text: '',
      line: parser.line,
    });
    hasAttributes = false;
  });
  parser.on('attribute', () => {
    hasAttributes = true;
  });
  parser.on('text', (words) => {
    const current = open[open.length - 1];
    // Line ends and blanks between elements say nothing.
    if (current && current.text.length < 20_000 && !isBlank(words)) current.text += words;
  });
  parser.on('cdata', (words) => {
    const current = open.at(-1);
    if (current) current.text += words;
  });
  parser.on('closetag', () => {
    const done = open.pop();
    if (!done) return;
    const parent = open[open.length - 1];
    if (!parent) root = done;
    else if (!take?.(done, parent)) {
      if (parent.children === NO_CHILDREN) parent.children = [done];
      else parent.children.push(done);
    }
  });
  try {
    parser.write(text).close();
  } catch (error) {
    if (error instanceof Refused) return failure(error.problem);
    throw error;
  }
  if (root) return success(root);
  return failure({
    code: 'bad-xml',
    place: { line: 1 },
    found: 'no element',
    right: 'a MusicXML file begins with <score-partwise>',
  });
}

const SPACE = 32;

/**
 * Whether there are only line ends and blanks of plain text; looked at letter by letter, since it stands after every
 * element.
 */
function isBlank(words: string): boolean {
  for (let k = 0; k < words.length; k += 1) if (words.charCodeAt(k) > SPACE) return false;
  return true;
}

export function child(element: XmlElement | undefined, name: string): XmlElement | undefined {
  if (!element) return undefined;
  for (const one of element.children) if (one.name === name) return one;
  return undefined;
}

export function childrenOf(element: XmlElement | undefined, name: string): readonly XmlElement[] {
  if (!element) return NO_CHILDREN;
  // Most elements have none of what is asked for; then no list is made.
  return element.children.some((one) => one.name === name)
    ? element.children.filter((one) => one.name === name)
    : NO_CHILDREN;
}

/** Trimmed text of a child; `undefined` when there is no such child or it is empty. */
export function textOf(element: XmlElement | undefined, ...path: readonly string[]): string | undefined {
  let found = element;
  for (const name of path) found = child(found, name);
  const text = found?.text.trim();
  return text === '' ? undefined : text;
}

/** A finite number in a child, or `undefined`. */
export function numberIn(element: XmlElement | undefined, ...path: readonly string[]): number | undefined {
  const text = textOf(element, ...path);
  if (text === undefined || !/^[+-]?\d+(\.\d+)?$/.test(text)) return undefined;
  return Number(text);
}
