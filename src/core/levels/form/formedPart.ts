import { profileOf } from '../../instruments';
import { type EventId, isNote } from '../../score';
import { joinChoruses, soloSpace, type Formed } from './form';
import { inSoloSpace } from '../parts/soloPart';
import type { BarRun } from '../bars/leaveOut';
import type { Part } from '../parts/partFor';
import type { LineRequest } from '../line/lineRequest';
import { type BarChoices, type Form, LEVEL_DEFAULTS, SHORTEST } from '../../work';

/** A part as it is printed and played through, and what each bar and event of it stands for. */
export interface FormedPart extends Pick<Formed, 'source' | 'origin'> {
  readonly part: Part;
}

/** What of a request may be otherwise from one time through to the next. */
export type ChorusWishes = Pick<LineRequest, 'melody' | 'rhythm' | 'embellish' | 'bars' | 'more'>;

/**
 * Plays a part through its form.
 * @param make the level's part, with other wishes where they are given
 * @param wishes those of the first time
 * @param others bars that are otherwise the second time
 * @param solo what stands between melody and melody, where a solo is wanted there; room for one by default
 */
export function formedPart(
  form: Form,
  make: (wishes?: ChorusWishes) => Part,
  wishes: ChorusWishes,
  others: BarChoices = {},
  solo?: Part,
): FormedPart {
  const first = make();
  if (form === 'once' || form === 'second') return throughForm([{ part: first, name: '' }], first);
  if (form === 'solo') {
    const room = soloSpace(first);
    const heardRoom = soloSpace({ bars: first.soundingBars, meter: first.meter });
    const space: Part = {
      ...first,
      bars: solo ? inSoloSpace(room, solo.bars, first) : room,
      soundingBars: solo ? inSoloSpace(heardRoom, solo.soundingBars, first) : heardRoom,
    };
    return throughForm(
      [
        { part: first, name: 'Melody' },
        { part: space, name: 'Solo' },
        { part: first, name: 'Melody again' },
      ],
      first,
    );
  }
  return throughForm(
    [
      { part: first, name: 'First time' },
      {
        part: make({
          ...secondTime(first, wishes),
          bars: { ...wishes.bars, chosen: { ...wishes.bars?.chosen, ...others } },
        }),
        name: 'Second time',
      },
    ],
    first,
  );
}

/**
 * The second time is fuller: a simplified melody goes one rhythm word further; one as written is embellished; one that
 * is embellished keeps all that was added and gets more.
 */
function secondTime({ level }: Pick<Part, 'level'>, wishes: ChorusWishes): ChorusWishes {
  const kind = wishes.melody ?? LEVEL_DEFAULTS[level].melody;
  if (kind === 'embellished') return { ...wishes, more: profileOf(level).embellishing.secondTime };
  if (kind === 'as written')
    return {
      ...wishes,
      melody: 'embellished',
      embellish: { ...wishes.embellish, density: profileOf(level).embellishing.secondTime },
    };
  const usualWord = wishes.rhythm?.shortest ?? LEVEL_DEFAULTS[level].shortest;
  const shortest = SHORTEST[Math.min(SHORTEST.indexOf(usualWord) + 1, SHORTEST.indexOf('eighth'))] ?? usualWord;
  return { ...wishes, rhythm: { ...wishes.rhythm, shortest } };
}

function throughForm(choruses: readonly { readonly part: Part; readonly name: string }[], first: Part): FormedPart {
  if (choruses.length === 1) {
    return {
      part: first,
      source: first.bars.map((_, bar) => ({ chorus: 0, bar })),
      origin: new Map(first.bars.flatMap(({ events }) => events.map(({ id }) => [id, { chorus: 0, id }]))),
    };
  }
  const written = joinChoruses(
    choruses.map(({ part, name }) => ({ bars: part.bars, name })),
    { meter: first.meter, key: first.writtenKey },
  );
  const sounding = joinChoruses(
    choruses.map(({ part, name }) => ({ bars: part.soundingBars, name })),
    { meter: first.meter, key: first.concertKey },
    written,
  );
  const { fingered, leftOut: _, ...plain } = first;
  const leftOut = runsOnPage(
    written,
    choruses.map(({ part }) => part.leftOut ?? []),
  );
  const marks = new Map<EventId, string>();
  for (const [id, { chorus, id: was }] of written.origin) {
    const mark = choruses[chorus]?.part.fingered?.marks.get(was);
    if (mark !== undefined) marks.set(id, mark);
  }
  return {
    part: {
      ...plain,
      ...(leftOut.length > 0 && { leftOut }),
      bars: written.bars,
      soundingBars: sounding.bars,
      ...(fingered && { fingered: { ...fingered, marks } }),
      difficulty: written.source.flatMap(({ chorus, bar }) => choruses[chorus]?.part.difficulty[bar] ?? []),
    },
    source: written.source,
    origin: written.origin,
  };
}

/**
 * Where the passages left out of each chorus stand when all are written one after another; a bar that took in a pickup
 * is not left out.
 */
function runsOnPage(
  { source, bars }: Pick<Formed, 'source' | 'bars'>,
  leftOut: readonly (readonly BarRun[])[],
): readonly BarRun[] {
  const runs: { from: number; to: number; of: BarRun }[] = [];
  source.forEach(({ chorus, bar }, page) => {
    const of = leftOut[chorus]?.find(({ from, to }) => bar >= from && bar < to);
    if (!of || bars[page]?.events.some((event) => isNote(event) && !event.cue)) return;
    const last = runs.at(-1);
    if (last && last.of === of && last.to === page) last.to = page + 1;
    else runs.push({ from: page, to: page + 1, of });
  });
  return runs.map(({ from, to }) => ({ from, to }));
}
