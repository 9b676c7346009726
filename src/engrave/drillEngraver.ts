import { remembered } from '../core/derived';
import { type Level, LEVELS } from '../core/instruments';
import { type ChangeText, describeChange, type Work } from '../core/work';
import { drillOfLevel, type DrillPart } from '../core/levels';
import { patternName, signsText } from '../core/drills';
import { LRUCache } from 'lru-cache';
import { accidentalsFor } from '../core/score';
import { chroma } from '../core/pitch';
import { Engraver, type EngravedRow } from './engraver';
import { BENCH_STAFF_SPACE, type PitchView } from './lanes';
import { barWidths, planLines } from './lines';
import { pictureSeed } from './pictureSeeds';
import { laneStaff, tabStaff } from './staves';

/** One level's music in one key. */
export interface DrillCell {
  readonly level: Level;
  /** As the level reads it, or as it sounds. */
  readonly name: string;
  readonly signs: string;
  /** Index of its first bar in the level's part, and the bar after its last. */
  readonly from: number;
  readonly to: number;
  readonly messages: readonly { readonly what: string; readonly why: string }[];
}

/** A key of an exercise at all levels that go through it. */
export interface DrillSlot {
  readonly id: string;
  /** Counted from 0. */
  readonly step: number;
  readonly stepName: string;
  readonly concertName: string;
  readonly cells: readonly DrillCell[];
}

/** What is known of a drill as soon as it is laid out, before anything is drawn. */
export interface DrillLaidOut {
  readonly slots: readonly DrillSlot[];
  /** Levels of which nothing remains, and why. */
  readonly empty: readonly { readonly level: Level; readonly why: string }[];
}

export interface DrillSink {
  readonly laidOut: (drill: DrillLaidOut) => void;
  readonly rows: (slot: string, level: Level, rows: readonly EngravedRow[]) => void;
}

/** What a quarter takes in a row of a drill, and clef and signature at its head, CSS pixels. */
const PIXELS = { quarter: 36, head: 66 } as const;

/**
 * Draws a drill key by key, the levels of a key together; a newer request ends an older one. Rows are cached by their
 * source.
 */
export class DrillEngraver {
  private newest = 0;
  private readonly drawn = new LRUCache<string, EngravedRow>({ max: 600 });

  constructor(private readonly engraver: Engraver) {}

  async draw(work: Work, view: PitchView, width: number, sink: DrillSink): Promise<void> {
    const mine = (this.newest += 1);
    if (!work.tune.drill) return;
    const made = new Map(LEVELS.map((level) => [level, drillOfLevel(work.tune, level, work.recipes)]));
    const laidOut = slotsOf(made, view, work);
    sink.laidOut(laidOut);
    const staves = new Map(
      LEVELS.map((level) => {
        const part = made.get(level);
        const lane = part && laneStaff(level, part.value, view);
        // The key stands beside the row already.
        const plain = lane && {
          ...lane,
          hideChords: work.tune.drill?.over === undefined,
          bars: lane.bars.map(({ section: _, ...bar }) => bar),
        };
        const tab = part?.value.tab && tabStaff(`${level}-tab`, part.value, part.value.tab);
        return [level, plain && [{ ...plain, accidentals: accidentalsFor(plain) }, ...(tab ? [tab] : [])]] as const;
      }),
    );
    for (const [index, slot] of laidOut.slots.entries()) {
      for (const cell of slot.cells) {
        const here = staves.get(cell.level);
        const staff = here?.[0];
        if (!here || !staff) continue;
        const widths = barWidths([staff]).slice(cell.from, cell.to);
        const room = Math.max(3, (width - PIXELS.head) / PIXELS.quarter);
        const rows = planLines(widths, room, new Set([0])).map(({ from, to }, row) =>
          this.row({
            staves: here,
            line: { from: cell.from + from, to: cell.from + to },
            width,
            staffSpace: BENCH_STAFF_SPACE,
            seed: pictureSeed('drill', (index % 400) * 60 + LEVELS.indexOf(cell.level) * 20 + (row % 20)),
          }),
        );
        sink.rows(slot.id, cell.level, rows);
      }
      // Lets a newer request in: what it asks for is wanted sooner.
      await new Promise((done) => setTimeout(done, 0));
      if (mine !== this.newest) return;
    }
  }

  private row(request: Parameters<Engraver['row']>[0]): EngravedRow {
    const source = Engraver.rowSource(request);
    return remembered(this.drawn, `${request.width}/${request.seed}/${source}`, () =>
      this.engraver.row(request, source),
    );
  }
}

/** Of many places that the same is said of, the first three and how many more. */
function gathered(messages: readonly ChangeText[]): readonly ChangeText[] {
  const byWhy = new Map<string, string[]>();
  for (const { what, why } of messages) byWhy.set(why, [...(byWhy.get(why) ?? []), what]);
  return [...byWhy].map(([why, all]) => {
    const whats = [...new Set(all)];
    const more = whats.length - 3;
    return { what: more > 0 ? `${whats.slice(0, 3).join('; ')}; and ${more} more` : whats.join('; '), why };
  });
}

/** The keys of all levels one under another: in the order of the level that goes through most of them. */
function slotsOf(made: ReadonlyMap<Level, DrillPart>, view: PitchView, work: Work): DrillLaidOut {
  const steps = work.tune.drill?.steps ?? [];
  const slots: {
    id: string;
    step: number;
    stepName: string;
    concertName: string;
    height: number;
    cells: DrillCell[];
  }[] = [];
  const byLength = [...made].toSorted(([, a], [, b]) => b.line.sections.length - a.line.sections.length);
  for (const [level, { line, changes, value }] of byLength)
    for (const section of line.sections) {
      const height = chroma(section.key.tonic);
      const found = slots.find(
        (slot) =>
          slot.step === section.step && slot.height === height && slot.cells.every((cell) => cell.level !== level),
      );
      const slot = found ?? {
        id: `${section.step}/${height}/${slots.filter((one) => one.step === section.step && one.height === height).length}`,
        step: section.step,
        stepName: patternName(steps[section.step]?.pattern ?? ''),
        concertName: section.concertName,
        height,
        cells: [],
      };
      if (!found) slots.push(slot);
      const key = view === 'written' ? section.writtenKey : section.key;
      slot.cells.push({
        level,
        name: view === 'written' ? section.set : section.concertSet,
        signs: signsText(key),
        from: section.from,
        to: section.to,
        messages: gathered(
          changes
            .filter(({ barIndex }) => barIndex >= section.from && barIndex < section.to)
            .map((change) => describeChange(change, value.written)),
        ),
      });
    }
  const inOrder = slots
    .map((slot, place) => ({ ...slot, place }))
    .toSorted((a, b) => a.step - b.step || a.place - b.place);
  return {
    slots: inOrder.map(({ height: _, place: _place, cells, ...slot }) => ({
      ...slot,
      cells: cells.toSorted((a, b) => LEVELS.indexOf(a.level) - LEVELS.indexOf(b.level)),
    })),
    empty: [...made].flatMap(([level, { line }]) => {
      const [first] = line.messages;
      return line.sections.length > 0
        ? []
        : [{ level, why: first ? `${first.what}: ${first.why}` : 'nothing of it is in the range' }];
    }),
  };
}
