import { readFile } from 'node:fs/promises';

/**
 * Where Debian's packages of General MIDI sound banks put their file, the one that the start command installs first.
 */
const PLACES = [
  '/usr/share/sounds/sf2/TimGM6mb.sf2',
  '/usr/share/sounds/sf2/default-GM.sf2',
  '/usr/share/sounds/sf2/FluidR3_GM.sf2',
] as const;

/** The sampled sounds, from `REED_SOUND_BANK` or the system; `undefined` where there are none. */
export async function soundBank(): Promise<Uint8Array | undefined> {
  const own = process.env['REED_SOUND_BANK'];
  for (const place of own ? [own] : PLACES) {
    try {
      return await readFile(/* turbopackIgnore: true */ place);
    } catch (error) {
      // The next place may have it; a file that is there and cannot be read is a fault that shall be seen.
      if (!(error instanceof Error && 'code' in error && error.code === 'ENOENT')) throw error;
    }
  }
  return undefined;
}
