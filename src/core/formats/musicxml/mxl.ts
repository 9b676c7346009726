import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import { failure, success, type Result } from '../../result';
import { MOST_BYTES } from '../limits';
import type { FormatProblem } from '../problem';
import { child, readXml } from './xmlTree';
import { escapeXml } from './escapeXml';

/** How much a compressed score may hold when opened. MusicXML shrinks twenty-fold; more than this is an attack or a library. */
const MOST_INFLATED = 8 * MOST_BYTES;
/** Names in an archive can be of any length; as much of them is told. */
const LONGEST_NAME = 80;

/** What a compressed score holds, and what is odd about the way it is packed. */
export interface OpenedMxl {
  readonly bytes: Uint8Array;
  readonly warnings: readonly FormatProblem[];
}

/** The score inside a compressed `.mxl`. Sizes are checked before anything is inflated; nothing is written to disk. */
export function openMxl(bytes: Uint8Array): Result<OpenedMxl, FormatProblem> {
  const refuse = (found: string, right: string) => failure({ code: 'bad-zip' as const, place: {}, found, right });
  let total = 0;
  let files: Record<string, Uint8Array>;
  try {
    files = unzipSync(bytes, {
      filter: (file) => {
        if (!/\.(xml|musicxml)$/i.test(file.name)) return false;
        total += file.originalSize;
        return total <= MOST_INFLATED;
      },
    });
  } catch (error) {
    // fflate throws an Error of its own for every broken archive.
    return refuse(error instanceof Error ? error.message : 'not a zip archive', 'compress the score again');
  }
  if (total > MOST_INFLATED)
    return refuse(
      `${Math.round(total / 1_048_576)} MB when opened`,
      `at most ${MOST_INFLATED / 1_048_576} MB are read`,
    );
  const container = files['META-INF/container.xml'];
  const xml = container && readXml(strFromU8(container));
  const named = xml?.ok ? child(child(xml.value, 'rootfiles'), 'rootfile')?.attributes['full-path'] : undefined;
  const isThere = named !== undefined && Object.hasOwn(files, named);
  const path = isThere ? named : Object.keys(files).find((name) => !name.startsWith('META-INF/'));
  const score = path === undefined ? undefined : files[path];
  if (!score || path === undefined)
    return refuse('no score inside', 'a .mxl file holds a MusicXML file and META-INF/container.xml');
  const astray: FormatProblem = {
    code: 'mxl-astray',
    place: {},
    found: (named ?? 'no file').slice(0, LONGEST_NAME),
    right: `${path.slice(0, LONGEST_NAME)} was read instead`,
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
