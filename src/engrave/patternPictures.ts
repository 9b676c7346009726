import { layDrill, PATTERNS } from '../core/drills';
import type { ScaleName } from '../core/harmony';
import { instrumentById } from '../core/instruments';
import { accidentalsFor, type DrillIdea } from '../core/score';
import type { Engraver } from './engraver';
import { pictureSeed } from './pictureSeeds';
import { tuneLane } from './staves';

/** The first bars of a pattern; no picture where it wants more than a set. */
export interface PatternPicture {
  readonly id: string;
  readonly svg: string;
}

const SMALL = { staffSpace: 4.2, width: 250 } as const;
/** Bars that a picture shows. */
const BARS = 2;

/** Draws the first bars of patterns over a set on C, as a flute would read them. */
export function patternPictures(engraver: Engraver, set: ScaleName, ids: readonly string[]): readonly PatternPicture[] {
  const instrument = instrumentById('flute');
  if (!instrument) return [];
  return ids.flatMap((id): readonly PatternPicture[] => {
    const idea: DrillIdea = {
      steps: [{ set, pattern: id, direction: 'up', rhythm: 'eighth', extent: 'octave' }],
      keys: [{ step: 'C', alter: 0 }],
    };
    const { tune, sections } = layDrill(idea, { level: 'advanced', instrument });
    if (sections.length === 0) return [];
    const bars = tune.bars.slice(0, BARS).map(({ section: _, barline: _line, ...bar }) => bar);
    const lane = tuneLane('pattern', { ...tune, bars });
    const staff = { ...lane, accidentals: accidentalsFor(lane) };
    const { svg } = engraver.row({
      staves: [staff],
      line: { from: 0, to: bars.length },
      width: SMALL.width,
      staffSpace: SMALL.staffSpace,
      seed: pictureSeed(
        'pattern',
        PATTERNS.findIndex((entry) => entry.id === id),
      ),
    });
    return [{ id, svg }];
  });
}
