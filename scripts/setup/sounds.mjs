import { ensureDebianPackages } from './packages.mjs';

/** The sampled sounds that the bench plays with. All else works without them. */
export function ensureSoundBank({ optional }) {
  if (!process.env.REED_SOUND_BANK)
    ensureDebianPackages({ 'timgm6mb-soundfont': ['/usr/share/sounds/sf2/TimGM6mb.sf2'] }, { optional });
}
