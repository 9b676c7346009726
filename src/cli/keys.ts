import { instrumentById, LEVELS } from '../core/instruments';
import { type KeyPlayer, keyReasons, rankKeys } from '../core/keys';
import { keyProblemText, parseKey, printKey, printPitch } from '../core/pitch';
import { noMoreThan, parseArguments, required, UsageError } from './arguments';
import { readInput } from './files';
import { knownInstrument } from './instruments';
import { asWritten, soundingKey } from './parts';

const twoDecimals = (value: number) => Math.round(value * 100) / 100;

/** `reed keys INPUT --players ID:LEVEL[,ID:LEVEL…] [--recording KEY]` */
export function keys(words: readonly string[]): unknown {
  const given = parseArguments(words, ['players', 'recording'], ['written']);
  noMoreThan(given, 1);
  const input = required(given, 0, 'INPUT');
  const text = given.options.get('players');
  if (text === undefined)
    throw new UsageError(
      '--players is missing: name players as INSTRUMENT:LEVEL, like --players flute:beginner,alto-sax:advanced',
    );
  const players = text.split(',').map((one) => playerOf(one.trim()));
  const recordingText = given.options.get('recording');
  const recording = recordingText === undefined ? undefined : recordingKey(recordingText);
  if (recording && !recording.ok) throw new UsageError(`--recording ${keyProblemText(recording.problem)}`);
  const toConcert = asWritten(given, players[0]?.instrument);
  const { tune, warnings } = readInput(input);
  warnings.forEach((warning) => process.stderr.write(`${warning}\n`));
  return {
    ranking: rankKeys(tune, players, {
      ...(recording?.ok && { recording: soundingKey(recording.value, toConcert) }),
    }).map(({ key, cost, players: judged, matchesRecording }) => ({
      key: printKey(key),
      cost: twoDecimals(cost),
      players: judged.map((one) => ({
        instrument: one.player.instrument.id,
        level: one.player.level,
        writtenKey: printKey(one.writtenKey),
        accidentals: Math.abs(one.signature),
        octave: one.octave,
        lowest: one.lowest ? printPitch(one.lowest) : null,
        highest: one.highest ? printPitch(one.highest) : null,
        fits: one.fits,
        difficulty: twoDecimals(one.difficulty),
        reasons: keyReasons(one),
      })),
      matchesRecording,
    })),
  };
}

/** Only the tonic of a recording is compared: D♯ is readable as a tonic, though nobody writes D♯ major. */
function recordingKey(text: string): ReturnType<typeof parseKey> {
  const parsed = parseKey(text);
  if (parsed.ok || parsed.problem.code !== 'too-many-accidentals') return parsed;
  const minor = parseKey(`${text.trim().replace(/\s.*$/, '')}m`);
  return minor.ok ? minor : parsed;
}

function playerOf(text: string): KeyPlayer {
  const [id = '', levelText, ...rest] = text.split(':');
  const level = LEVELS.find((known) => known === levelText);
  if (rest.length > 0 || levelText === undefined)
    throw new UsageError(`--players "${text}": write each as INSTRUMENT:LEVEL, like flute:beginner`);
  if (!instrumentById(id)) knownInstrument(id);
  if (!level)
    throw new UsageError(`--players "${text}": the level "${levelText}" is unknown; use ${LEVELS.join(', ')}`);
  return { instrument: knownInstrument(id), level };
}
