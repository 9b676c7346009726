import { UsageError } from './arguments';
import { analyse } from './analyse';
import { convert } from './convert';
import { drill } from './drill';
import { ensemble } from './ensemble';
import { finger } from './finger';
import { instruments } from './instruments';
import { keys } from './keys';
import { parts } from './parts';
import { plan } from './plan';
import { chords } from './chords';
import { pools } from './pools';
import { scale } from './scale';
import { licks } from './licks';
import { solo } from './solo';
import { under } from './under';

const HELP = `reed: arrange tunes from the command line

  reed instruments [ID]
  reed convert INPUT OUTPUT           from and to .abc .musicxml .xml .mxl .mid .reed.json
  reed analyse INPUT                  key, scales, phrases, form, leaps, rhythms
  reed keys INPUT --players ID:LEVEL[,ID:LEVEL…] [--recording KEY]
                                      the twelve concert keys for these players, best first
  reed finger INPUT --for ID [--school open|fourth|stay|lowest] [--pin BAR:BEAT:FINGER[,…]]
                                      each note's fingering, shifts, crossings and cost
  reed parts INPUT --for ID[,ID…] --level beginner|intermediate|advanced|all
             [--key KEY|best] [--tempo BPM] [--aids none|fingering,names,degrees,syllables,counts,breaths,bowing]
             [--phrasing none|song|hymn|air|dance|march|swing|tango|older]
             [--format musicxml|mxl|abc|midi|pdf|json] [--out DIR]
  reed chords INPUT --for ID [--level LEVEL] [--rhythm long|shuffle|quick] [--key KEY] [--out DIR]
                                      two-string grips for each chord symbol, in a bow rhythm
  reed under INPUT --for ID [--notes 3|5|G4,A4,B4] [--pace bar|half|beat] [--key KEY] [--out DIR]
                                      an easier part under the tune, from open strings or a few notes

  reed pools INPUT|"CHORDS" --for ID --level LEVEL [--key KEY]
                                      the notes to improvise with, for the whole form and over each chord
  reed scale "SET" --for ID[,ID…] [--octaves 1|2|full] [--level LEVEL] [--down natural|same]
             [--keys fourths|…] [--aids LIST] [--format …] [--out DIR]
                                      a named set on an instrument, up and down; as PDF a sheet to say, finger and
                                      play it from, with --keys a booklet of twelve
  reed drill --set NAME --pattern PATTERN --for ID[,ID…] --level LEVEL|all [--keys C,F,…|fourths|…] [--start KEY]
             [--direction up|down|up-down|down-up|alternate|melodic] [--extent octave|two|three|full|LOW-HIGH]
             [--rhythm half|quarter|eighth|triplet|sixteenth|offbeat|swing] [--over INPUT|"CHORDS"]
             [--tempo BPM] [--seed N] [--aids LIST] [--format …] [--out DIR]
                                      a set gone through by a pattern, in its keys
  reed licks INPUT --bars A-B [--over INPUT|"CHORDS"] [--key KEY]
                                      some bars as a lick: what it fits, and where it fits into other chords
  reed solo INPUT|"CHORDS" --for ID[,ID…] --level LEVEL|all [--key KEY] [--tempo BPM] [--choruses N] [--seed N]
             [--phrasing STYLE|none] [--format …] [--out DIR]
                                      an example solo over the chords, with its plan and what each note is
  reed ensemble INPUT --players ID:LEVEL[:ROLE][,…] [--key KEY|best] [--tempo BPM] [--seed N]
             [--format musicxml|mxl|pdf|json] [--out DIR]
                                      parts that sound together and their score; roles: tune, second, counter, pad,
                                      bass, rhythm
  reed plan INPUT.plan.json [--log LOG.csv] [--today DATE] [--days N] [--format json|ics|csv|pdf] [--out FILE]
                                      a pupil's practice, day by day, from goals, days and log; will it be ready?
  reed sound INPUT [--lane tune|none|LEVEL] [--for ID] [--key KEY] [--tempo BPM] [--backing none|held|beats|walking|drone]
             [--count-in N] [--click all|N/M] [--from BAR --to BAR --times N] --out FILE.wav|FILE.mp3
                                      a sound file: a line, a backing, a metronome that falls silent

With --tab, parts, drills, scales and solos for an instrument with frets have a tablature under the notes.
With --written, keys and tonics are meant as the first named instrument reads them; otherwise they are concert pitch.
Results are JSON on standard output. Exit status 2: the input or an argument is wrong, and why is on standard error.`;

const COMMANDS: Readonly<Record<string, (words: readonly string[]) => unknown>> = {
  instruments,
  convert,
  analyse,
  keys,
  finger,
  parts,
  under,
  chords,
  pools,
  scale,
  drill,
  solo,
  ensemble,
  licks,
  plan,
  // With it comes a synthesiser, for which no other command has to wait.
  sound: async (words) => (await import('./sound')).sound(words),
};

/** What stands about a command in the help, and the rules that hold for all. */
function helpFor(name: string): string {
  const paragraphs = HELP.split(/\n(?= {2}reed )|\n\n/);
  const own = paragraphs.find((one) => one.trimStart().startsWith(`reed ${name} `)) ?? '';
  return `${own.trimEnd()}\n\n${paragraphs.at(-1) ?? ''}`;
}

async function main(words: readonly string[]): Promise<number> {
  const [name, ...rest] = words;
  if (name === 'help' || name === '--help' || name === '-h') {
    process.stdout.write(`${HELP}\n`);
    return 0;
  }
  try {
    const command = name !== undefined && Object.hasOwn(COMMANDS, name) ? COMMANDS[name] : undefined;
    if (!command)
      throw new UsageError(
        `${name === undefined ? 'the command is missing' : `unknown command "${name}"`}: use ${Object.keys(COMMANDS).join(', ')} or help`,
      );
    if (rest.includes('--help') || rest.includes('-h')) {
      process.stdout.write(`${helpFor(name ?? '')}\n`);
      return 0;
    }
    process.stdout.write(`${JSON.stringify(await command(rest), undefined, 2)}\n`);
    return 0;
  } catch (error) {
    if (error instanceof UsageError) {
      process.stderr.write(`reed: ${error.message.replace(/\s+/g, ' ').slice(0, 900)}\n`);
      return 2;
    }
    process.stderr.write(
      `reed: a fault in the program: ${error instanceof Error ? (error.stack ?? error.message) : String(error)}\n`,
    );
    return 1;
  }
}

process.exitCode = await main(process.argv.slice(2));
