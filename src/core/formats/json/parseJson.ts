import { failure, success, type Result } from '../../result';

/** The deepest document of ours (a grace note's pitch inside a tune inside a group's archive) has a dozen levels. */
const MAX_DEPTH = 64;
/** The largest tune that is taken has about 200,000 values; each costs the parser some fifty bytes. */
const MAX_VALUES = 1_000_000;

const [QUOTE, BACKSLASH, COMMA, COLON, OPEN_LIST, CLOSE_LIST, OPEN_OBJECT, CLOSE_OBJECT] = [...'"\\,:[]{}'].map(
  (sign) => sign.charCodeAt(0),
) as [number, number, number, number, number, number, number, number];

/**
 * Parses JSON from outside. Depth and number of values are counted first, because the parser's memory cannot be
 * bounded: 250 MB of `[` take it several gigabytes.
 * @returns what the text holds, not yet checked; or what is wrong with it in words
 */
export function parseJson(text: string): Result<unknown, string> {
  const trouble = tooMuch(text);
  if (trouble !== undefined) return failure(trouble);
  try {
    return success(JSON.parse(text) as unknown);
  } catch (error) {
    if (!(error instanceof SyntaxError)) throw error;
    return failure(error.message.slice(0, 200));
  }
}

/** Why a text is not given to the parser; `undefined` where it may be. */
function tooMuch(text: string): string | undefined {
  let [depth, values] = [0, 1];
  for (let at = 0; at < text.length; at += 1) {
    const sign = text.charCodeAt(at);
    if (sign === QUOTE) at = stringEnd(text, at);
    else if (sign === OPEN_LIST || sign === OPEN_OBJECT) {
      depth += 1;
      values += 1;
      if (depth > MAX_DEPTH) return `it is nested more than ${MAX_DEPTH} levels deep`;
    } else if (sign === CLOSE_LIST || sign === CLOSE_OBJECT) depth -= 1;
    else if (sign === COMMA || sign === COLON) values += 1;
    if (values > MAX_VALUES) return `it holds more than ${MAX_VALUES.toLocaleString('en')} values`;
  }
  return undefined;
}

/** The index of the quotation mark that ends a string, or the end of the text. */
function stringEnd(text: string, start: number): number {
  for (let at = start + 1; at < text.length; at += 1) {
    const sign = text.charCodeAt(at);
    if (sign === BACKSLASH) at += 1;
    else if (sign === QUOTE) return at;
  }
  return text.length;
}
