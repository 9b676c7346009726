import { expose } from 'comlink';
import type { Result } from '../../core/result';
import type { Tune } from '../../core/score';
import { Engraver } from '../../engrave/engraver';
import { previewRows } from '../../engrave/variants';
import { previewOf, type Chosen, type Preview } from './importPreview';

/** The engraving library is large: it is started when there is a first tune to draw. */
let engraver: Promise<Engraver> | undefined;
let newest: Tune | undefined;

const WIDTH = 560;

/** Reads files on a thread of their own, so that a large or odd one never holds up the page. */
const door = {
  read(bytes: Uint8Array, name: string, chosen: Chosen): Result<Preview, readonly string[]> {
    const read = previewOf(bytes, name, chosen);
    newest = read.ok ? read.value.tune : undefined;
    return read.ok ? { ok: true, value: read.value.preview } : read;
  },
  /** The first lines of what was read last. */
  async rows(): Promise<readonly string[]> {
    engraver ??= Engraver.start();
    const started = await engraver;
    return newest ? previewRows(started, newest, WIDTH) : [];
  },
};
export type ImportDoor = typeof door;

expose(door);
