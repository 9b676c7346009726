import {
  alterInKey,
  type Key,
  type Letter,
  midiNumber,
  naturalAt,
  type Pitch,
  semitones,
  staffPosition,
  withAlterUpTo,
} from '../../pitch';
import { isNote, keysOf, mapNotes, type EventId, type Tune } from '../tune';
import { edited, refused, type EditResult } from './edited';
import { tieChain, type Caret } from './place';

/** How notes are moved: by steps of the key, by octaves, or by half steps on the same line or space. */
export type PitchMove = { readonly steps: number } | { readonly octaves: number } | { readonly halfSteps: 1 | -1 };

/** The lowest and highest notes that can be written: those of a piano, and a little more. */
const LOWEST_KEY = 12;
const HIGHEST_KEY = 119;

/**
 * A letter as the nearest pitch of the key to the one before it; on a tie upwards. Around the middle of the staff where
 * there is none.
 */
export function nearestPitch(step: Letter, key: Key, before: Pitch | undefined): Pitch {
  const target = before ? staffPosition(before) : staffPosition({ step: 'B', alter: 0, octave: 4 });
  const alter = alterInKey(step, key);
  const candidates = [2, 3, 4, 5, 6, 7].map((octave): Pitch => ({ step, alter, octave }));
  return candidates.reduce((best, next) =>
    Math.abs(staffPosition(next) - target) <= Math.abs(staffPosition(best) - target) ? next : best,
  );
}

function moved(pitch: Pitch, move: PitchMove, key: Key): Pitch {
  if ('octaves' in move) return { ...pitch, octave: pitch.octave + move.octaves };
  if ('steps' in move) {
    const natural = naturalAt(staffPosition(pitch) + move.steps);
    return { ...natural, alter: alterInKey(natural.step, key) };
  }
  return withAlterUpTo({ ...pitch, alter: pitch.alter + move.halfSteps }, 2);
}

/** Moves notes, tied ones with their whole chain. Refused as a whole where one would leave what can be written. */
export function movePitches(tune: Tune, ids: readonly EventId[], move: PitchMove, caret: Caret): EditResult {
  const chains = ids.map((id) => tieChain(tune.bars, id));
  const all = new Set(chains.flatMap((chain) => chain.map((note) => note.id)));
  const count = new Set(chains.map((chain) => chain[0]?.id)).size;
  if (all.size === 0) return refused('nothing-here', 'There is no note to move here.');
  const keys = keysOf(tune);
  let isOutside = false;
  const bars = mapNotes(tune.bars, (note, bar) => {
    if (!all.has(note.id)) return note;
    const pitch = moved(note.pitch, move, keys[bar] ?? tune.key);
    const number = midiNumber(pitch);
    if (number < LOWEST_KEY || number > HIGHEST_KEY || pitch.octave < 0 || pitch.octave > 9) isOutside = true;
    return { ...note, pitch };
  });
  if (isOutside) return refused('outside-notes', 'No instrument plays there.');
  return edited(tune, bars, caret, nameOf(move, count));
}

function nameOf(move: PitchMove, count: number): string {
  const what = count === 1 ? 'a note' : `${count} notes`;
  if ('octaves' in move) return `Move ${what} an octave ${move.octaves > 0 ? 'up' : 'down'}`;
  if ('halfSteps' in move) return move.halfSteps > 0 ? `Raise ${what}` : `Lower ${what}`;
  const steps = Math.abs(move.steps);
  return `Move ${what} ${steps === 1 ? 'a step' : `${steps} steps`} ${move.steps > 0 ? 'up' : 'down'}`;
}

/** The same sound on the neighbouring letter: G♯ ⇄ A♭. */
export function respellNotes(tune: Tune, ids: readonly EventId[], caret: Caret): EditResult {
  const all = new Set(ids.flatMap((id) => tieChain(tune.bars, id).map((note) => note.id)));
  const bars = mapNotes(tune.bars, (note) => (all.has(note.id) ? { ...note, pitch: twinOf(note.pitch) } : note));
  if (bars.every((bar, index) => bar === tune.bars[index]))
    return refused('nothing-here', 'There is no note to respell here.');
  return edited(tune, bars, caret, 'Respell');
}

function twinOf(pitch: Pitch): Pitch {
  const [up, down] = [1, -1].map((step): Pitch => {
    const natural = naturalAt(staffPosition(pitch) + step);
    return { ...natural, alter: semitones(pitch) - semitones(natural) };
  });
  const candidates = [up, down].filter((one): one is Pitch => one !== undefined && Math.abs(one.alter) <= 1);
  return candidates[0] ?? pitch;
}

/** Ties the last of the notes to the next one of its pitch, or takes the tie off. */
export function toggleTie(tune: Tune, id: EventId, caret: Caret): EditResult {
  const events = tune.bars.flatMap((bar) => bar.events);
  const index = events.findIndex((event) => event.id === id);
  const [here, next] = [events[index], events[index + 1]];
  if (!here || !isNote(here)) return refused('nothing-here', 'There is no note to tie here.');
  if (!here.tied && !(next && isNote(next) && semitones(next.pitch) === semitones(here.pitch))) {
    return refused(
      'no-same-pitch',
      'A tie needs the same pitch right after it. Write that note first, or lengthen this one.',
    );
  }
  const bars = mapNotes(tune.bars, (note) => {
    if (note.id !== id) return note;
    const { tied, ...plain } = note;
    return tied ? plain : { ...plain, tied: true };
  });
  return edited(tune, bars, caret, here.tied ? 'No tie' : 'Tie');
}
