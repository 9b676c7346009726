import { playingOf, type Pupil } from '../core/planning';

/** What a pupil was sent to the stand with: of which work, at which step, which bars and how fast. */
export interface StandWish {
  readonly [field: string]: string | readonly string[] | undefined;
}

/** The step of an assignment as an address names it, and who plays; nothing where the work is not theirs. */
export function assignmentOf(pupil: Pupil, query: StandWish) {
  const work = pupil.work.find((one) => one.id === query['work']);
  const playing = work && playingOf(pupil, work.playing);
  const step = query['step'];
  if (!work || !playing || typeof step !== 'string') return undefined;
  const number = (name: string) => {
    const text = query[name];
    return typeof text === 'string' && /^\d{1,4}$/.test(text) ? Number(text) : undefined;
  };
  const [tempo, from, to] = [number('tempo'), number('from'), number('to')];
  return {
    work,
    player: { ...playing, name: pupil.name },
    step: step.slice(0, 80),
    ...(tempo !== undefined && { tempo }),
    ...(from !== undefined && { from }),
    ...(to !== undefined && { to }),
  };
}
