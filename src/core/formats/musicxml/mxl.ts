import { strFromU8, strToU8, zipSync } from 'fflate';
import { failure, success, type Result } from '../../result';
import { inflateZip } from '../inflateZip';
import { MAX_BYTES } from '../../score';
import type { FormatProblem } from '../problem';
import { child, readXml } from './xmlTree';
import { escapeXml } from './escapeXml';

/**
 * How much a compressed score may hold when opened. MusicXML shrinks twenty-fold; more than this is an attack or a
 * library.
 */
const MAX_INFLATED = 8 * MAX_BYTES;
/** Names in an archive can be of any length; as much of them is told. */
const MAX_NAME = 80;

/** What a compressed score holds, and what is odd about the way it is packed. */
export interface OpenedMxl {
  readonly bytes: Uint8Array;
  readonly warnings: readonly FormatProblem[];
}

/** The score inside a compressed `.mxl`. Nothing is written to disk. */
export function openMxl(bytes: Uint8Array): Result<OpenedMxl, FormatProblem> {
  const refuse = (found: string, right: string) => failure({ code: 'bad-zip' as const, place: {}, found, right });
  const inflated = inflateZip(bytes, (name) => /\.(xml|musicxml)$/i.test(name), MAX_INFLATED);
  if (!inflated.ok)
    return inflated.problem.code === 'damaged'
      ? refuse(inflated.problem.found, 'compress the score again')
      : refuse(
          `more than ${MAX_INFLATED / 1_048_576} MB when opened`,
          `at most ${MAX_INFLATED / 1_048_576} MB are read`,
        );
  const files = inflated.value;
  const container = files.get('META-INF/container.xml');
  const xml = container && readXml(strFromU8(container));
  const named = xml?.ok ? child(child(xml.value, 'rootfiles'), 'rootfile')?.attributes['full-path'] : undefined;
  const isThere = named !== undefined && files.has(named);
  const path = isThere ? named : [...files.keys()].find((name) => !name.startsWith('META-INF/'));
  const score = path === undefined ? undefined : files.get(path);
  if (!score || path === undefined)
    return refuse('no score inside', 'a .mxl file holds a MusicXML file and META-INF/container.xml');
  const astray: FormatProblem = {
    code: 'mxl-astray',
    place: {},
    found: (named ?? 'no file').slice(0, MAX_NAME),
    right: `${path.slice(0, MAX_NAME)} was read instead`,
  };
  return success({ bytes: score, warnings: isThere ? [] : [astray] });
}

/** Packs a score as `.mxl`. The same score gives the same bytes. */
export function writeMxl(musicXml: string, name = 'score.musicxml'): Uint8Array {
  const container = `<?xml version="1.0" encoding="UTF-8"?>\n<container><rootfiles><rootfile full-path="${escapeXml(name)}" media-type="application/vnd.recordare.musicxml+xml"/></rootfiles></container>\n`;
  return zipSync(
    { 'META-INF/container.xml': strToU8(container), [name]: strToU8(musicXml) },
    { mtime: new Date(1980, 0, 1) },
  );
}
