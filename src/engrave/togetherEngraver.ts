import { LRUCache } from 'lru-cache';
import { derived, remembered } from '../core/derived';
import { type Ensemble, ensembleOfGroup, partOfVoice, playersThere } from '../core/ensemble';
import type { Level } from '../core/instruments';
import type { Group } from '../core/keys';
import { nameKey, printPitch } from '../core/pitch';
import { accidentalsFor, barNumbers, type PartRole, type TogetherBar, type TogetherCell } from '../core/score';
import { nameChord } from '../core/harmony';
import type { Work } from '../core/work';
import type { Staff } from '../core/formats';
import { Engraver, type EngravedRow } from './engraver';
import { BENCH_STAFF_SPACE, type PitchView } from './lanes';
import { barWidths, goodLineStarts, planLines, type Line } from './lines';
import { pictureSeed } from './pictureSeeds';
import { laneStaff } from './staves';

/** A run of bars over which everybody keeps a role. */
export interface TogetherSection {
  /** The bar that names it, and bars as printed, from and to. */
  readonly id: string;
  readonly from: number;
  readonly to: number;
  /** Indices of its bars; `to` is not among them. */
  readonly fromIndex: number;
  readonly toIndex: number;
}

/** What the screen says of a player; plain data, so that it can be sent from a worker. */
export interface TogetherPlayer {
  readonly id: string;
  readonly name: string;
  readonly instrument: string;
  readonly level: Level;
  readonly role: PartRole;
  /** By section. */
  readonly cells: readonly TogetherCell[];
  readonly reads: string;
  readonly range: string;
  /** What each bar is, and why. */
  readonly reasons: readonly {
    readonly bar: number;
    readonly barIndex: number;
    readonly what: string;
    readonly why: string;
  }[];
  /** Bars whose notes are written by hand or in another version, by index. */
  readonly byHand: readonly number[];
}

/** What is known as soon as everybody's line is made, before anything is drawn. */
export interface TogetherLaidOut {
  readonly sections: readonly TogetherSection[];
  readonly players: readonly TogetherPlayer[];
  readonly lines: readonly Line[];
  readonly numbers: readonly number[];
  readonly key: string;
  readonly perMinute: number;
  /** What a teacher should know of the whole. */
  readonly messages: readonly string[];
  /** The tune has no chords: these were made for it, and can be taken or changed. */
  readonly proposed?: string;
}

export interface TogetherSink {
  readonly laidOut: (made: TogetherLaidOut) => void;
  readonly row: (index: number, row: EngravedRow) => void;
}

/** What is drawn: everybody, or one player alone, as each reads it or as it sounds. */
export interface TogetherWishes {
  readonly group: Group;
  readonly view: PitchView;
  /** CSS pixels. */
  readonly width: number;
  /** One player's part alone, larger. */
  readonly alone?: string;
  /** Index of a bar; its row is drawn first. */
  readonly nearBar: number;
}

/** Room a quarter takes, and clef and signature at the head of a row, CSS pixels; the staff space of one part alone. */
const PIXELS = { quarter: 30, head: 66, quarterAlone: 42 } as const;
const ALONE_STAFF_SPACE = 9;
const MAX_CACHED = 300;

/** Draws a tune played together, a row of the score at a time; a newer request ends an older one. */
export class TogetherEngraver {
  private newest = 0;
  private readonly drawn = new LRUCache<string, EngravedRow>({ max: MAX_CACHED });

  constructor(private readonly engraver: Engraver) {}

  async draw(work: Work, wishes: TogetherWishes, sink: TogetherSink): Promise<void> {
    const mine = (this.newest += 1);
    const ensemble = ensembleOfGroup(work, wishes.group);
    if (!ensemble) {
      sink.laidOut(NOBODY);
      return;
    }
    const { view, width, alone } = wishes;
    const picked = ensemble.voices.findIndex(({ player }) => player.id === alone);
    // Who sits out all of it has no staff in the score.
    const there = ensemble.voices.flatMap(({ cells }, index) => (cells.some((cell) => cell !== 'out') ? [index] : []));
    const staves = (picked >= 0 ? [picked] : there).map((index, k) => voiceStaff(ensemble, index, view, k === 0));
    const [top] = staves;
    if (!top) return;
    const quarter = picked >= 0 ? PIXELS.quarterAlone : PIXELS.quarter;
    const lines = planLines(barWidths(staves), Math.max(3, (width - PIXELS.head) / quarter), goodLineStarts(top));
    sink.laidOut({ ...laidOutOf(ensemble, work, wishes), lines });
    const first = Math.max(
      0,
      lines.findIndex(({ to }) => to > wishes.nearBar),
    );
    const order = [...lines.keys()].toSorted((a, b) => after(a, first) - after(b, first));
    for (const index of order) {
      const line = lines[index];
      if (!line) continue;
      const row = this.row({
        staves,
        line,
        width,
        staffSpace: picked >= 0 ? ALONE_STAFF_SPACE : BENCH_STAFF_SPACE - 0.6,
        seed: pictureSeed('together', index),
      });
      sink.row(index, row);
      // Lets a newer request in: what it asks for is wanted sooner.
      await new Promise((done) => setTimeout(done, 0));
      if (mine !== this.newest) return;
    }
  }

  /** A bar of a player in its versions, each drawn small; those that come out alike are shown once. */
  versions(work: Work, group: Group, player: string, barIndex: number, view: PitchView): readonly TogetherVersion[] {
    const bar = work.tune.bars[barIndex];
    if (!bar) return [];
    const shown = new Map<string, TogetherVersion>();
    const now = work.tune.together?.bars?.[player]?.[bar.id];
    const choices = [...(now?.kind === 'own' ? [undefined, now] : [undefined]), ...VERSIONS];
    for (const choice of choices) {
      const ensemble = ensembleOfGroup(withBar(work, player, bar.id, choice), group);
      const index = ensemble?.voices.findIndex((voice) => voice.player.id === player) ?? -1;
      if (!ensemble || index < 0) continue;
      const staff = voiceStaff(ensemble, index, view, false);
      const look = JSON.stringify(staff.bars[barIndex]?.events.map(({ id: _, ...event }) => event) ?? []);
      if (shown.has(look)) continue;
      const { svg } = this.engraver.row({
        staves: [staff],
        line: { from: barIndex, to: barIndex + 1 },
        width: VERSION.width,
        staffSpace: VERSION.staffSpace,
        seed: pictureSeed('together bar', shown.size),
      });
      shown.set(look, { choice, svg });
    }
    return [...shown.values()];
  }

  private row(request: Parameters<Engraver['row']>[0]): EngravedRow {
    const source = Engraver.rowSource(request);
    return remembered(this.drawn, `${request.width}/${request.staffSpace}/${request.seed}/${source}`, () =>
      this.engraver.row(request, source),
    );
  }
}

/** A version of a bar; none is what the program makes of it. */
export interface TogetherVersion {
  readonly choice: TogetherBar | undefined;
  readonly svg: string;
}

const VERSION = { width: 268, staffSpace: 4.8 } as const;
const VERSIONS: readonly TogetherBar[] = [
  { kind: 'simpler' },
  { kind: 'other', seed: 1 },
  { kind: 'other', seed: 2 },
  { kind: 'other', seed: 3 },
  { kind: 'octave-up' },
  { kind: 'octave-down' },
  { kind: 'rest' },
];

function withBar(work: Work, player: string, bar: string, choice: TogetherBar | undefined): Work {
  const { together = {} } = work.tune;
  const { [bar]: _, ...others } = together.bars?.[player] ?? {};
  const bars = { ...together.bars, [player]: choice ? { ...others, [bar]: choice } : others };
  return { ...work, tune: { ...work.tune, together: { ...together, bars } } };
}

const NOBODY: TogetherLaidOut = {
  sections: [],
  players: [],
  lines: [],
  numbers: [],
  key: '',
  perMinute: 0,
  messages: ['Nobody in this group has an instrument that is there.'],
};

/** The row asked for, then downwards, then upwards. */
function after(index: number, first: number): number {
  return index >= first ? index - first : 10_000 + first - index;
}

/** The id of a player's staff, by the player's place. */
function voiceStaffId(index: number): string {
  return `v${index + 1}`;
}

/** A part is worked out and laid out once for each view. */
const partOf = derived((ensemble: Ensemble, index: number) => partOfVoice(ensemble, index, 'bare'), { most: 64 });

const voiceStaff = derived(
  (ensemble: Ensemble, index: number, view: PitchView, hasChords: boolean): Staff => {
    const { part } = partOf(ensemble, index);
    const { fingers: _, ...lane } = laneStaff(voiceStaffId(index), part, view);
    const bars = lane.bars.map((bar) => {
      const { counts: _counts, section: _section, ...plain } = bar;
      // Marks over every staff would hide whose they are: the first has signs and chords for all.
      return hasChords ? bar : plain;
    });
    const staff = { ...lane, bars, hideChords: !hasChords };
    return { ...staff, accidentals: accidentalsFor(staff) };
  },
  { most: 128 },
);

function laidOutOf(ensemble: Ensemble, work: Work, { group, view }: TogetherWishes): Omit<TogetherLaidOut, 'lines'> {
  const { ground, sections, voices, perMinute } = ensemble;
  const numbers = barNumbers(ground.tune);
  return {
    sections: sections.map(({ from, to }) => ({
      id: ground.tune.bars[from]?.id ?? '',
      from: numbers[from] ?? 0,
      to: numbers[to - 1] ?? 0,
      fromIndex: from,
      toIndex: to,
    })),
    players: voices.map(({ player, role, cells }, index): TogetherPlayer => {
      const { part, reasons } = partOf(ensemble, index);
      const byHand = work.tune.together?.bars?.[player.id] ?? {};
      return {
        id: player.id,
        name: player.name ?? player.instrument.name,
        instrument: player.instrument.name,
        level: player.level,
        role,
        cells,
        reads: nameKey(view === 'written' ? part.writtenKey : part.concertKey),
        range: part.lowest && part.highest ? `${printPitch(part.lowest)} to ${printPitch(part.highest)}` : '',
        reasons,
        byHand: ground.tune.bars.flatMap(({ id }, bar) => (byHand[id] ? [bar] : [])),
      };
    }),
    numbers,
    key: nameKey(ground.tune.key),
    perMinute,
    messages: messagesOf(ensemble, group),
    ...(ensemble.hasProposedChords && { proposed: proposedText(ensemble) }),
  };
}

/** The proposed chords once each; empty where none could be proposed. */
function proposedText({ ground }: Ensemble): string {
  return [...new Set(ground.chords.map(({ symbol }) => nameChord(symbol)))].join(', ');
}

function messagesOf(ensemble: Ensemble, group: Group): readonly string[] {
  const { measures, voices } = ensemble;
  const missing = group.players.length - playersThere(group).length;
  return [
    ...(measures.parallels.length > 0
      ? [
          `${measures.parallels.length === 1 ? 'One parallel' : `${measures.parallels.length} parallels`} could not be avoided: see the bars of the players.`,
        ]
      : []),
    ...(!voices.some(({ role }) => role === 'bass') && voices.length > 2
      ? ['Nobody here lies low enough for a bass under the tune.']
      : []),
    ...(missing > 0
      ? [`${missing === 1 ? 'One player has' : `${missing} players have`} no instrument that is there, and no part.`]
      : []),
  ];
}
