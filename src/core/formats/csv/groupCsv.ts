import Papa from 'papaparse';
import { type CustomInstrument, INSTRUMENTS, LEVELS, limitsProblem } from '../../instruments';
import { parseNotes, parsePitch, printNotes, printPitch } from '../../pitch';
import { GROUP_LIMITS, type GroupPlayer, WANTED_MARKS } from '../../keys';
import { cutText, plainText } from '../../plainText';
import { failure, success, type Result } from '../../result';
import { AIDS } from '../../work';

const COLUMNS = ['name', 'instrument', 'level', 'lowest', 'highest', 'known notes', 'finger marks', 'aids'] as const;

/** The players as a table for a spreadsheet; cells that a spreadsheet would take for formulas are quoted as text. */
export function playersToCsv(players: readonly GroupPlayer[]): string {
  return Papa.unparse(
    {
      fields: [...COLUMNS],
      data: players.map((player) => [
        player.name,
        player.instrument,
        player.level,
        player.low ? printPitch(player.low) : '',
        player.high ? printPitch(player.high) : '',
        printNotes(player.known ?? []),
        player.marks ?? 'level',
        player.aids ? player.aids.join(' ') || 'none' : 'level',
      ]),
    },
    { escapeFormulae: true, newline: '\r\n' },
  );
}

/** Reads players from a table with a head line; `name`, `instrument` and `level` are needed. All of it or nothing. */
export function playersFromCsv(
  text: string,
  custom: readonly CustomInstrument[],
): Result<readonly Omit<GroupPlayer, 'id'>[], readonly string[]> {
  const parsed = Papa.parse<Record<string, string>>(text.replace(/^\uFEFF/, ''), {
    header: true,
    skipEmptyLines: 'greedy',
    transformHeader: (head) => head.trim().toLowerCase(),
  });
  const heads = parsed.meta.fields ?? [];
  const lacking = COLUMNS.slice(0, 3).filter((column) => !heads.includes(column));
  if (lacking.length > 0)
    return failure([
      `The first line must name the columns; ${lacking.join(' and ')} ${lacking.length === 1 ? 'is' : 'are'} missing. It may hold: ${COLUMNS.join(', ')}.`,
    ]);
  if (parsed.data.length > GROUP_LIMITS.players)
    return failure([`${parsed.data.length} players; a group holds ${GROUP_LIMITS.players} at most.`]);
  const problems: string[] = [];
  const players = parsed.data.map((row, index): Omit<GroupPlayer, 'id'> => {
    const line = index + 2;
    const cell = (column: (typeof COLUMNS)[number]) => (row[column] ?? '').trim().replace(/^'(?=[=+\-@])/, '');
    const wanted = cell('instrument').toLowerCase();
    const customOne = custom.find(({ id, name }) => id.toLowerCase() === wanted || name.toLowerCase() === wanted);
    const found = INSTRUMENTS.find(({ id, name }) => id === wanted || name.toLowerCase() === wanted);
    const level = LEVELS.find((known) => known === cell('level').toLowerCase());
    if (!found && !customOne)
      problems.push(
        `Line ${line}: the instrument "${cell('instrument')}" is unknown; use a name or id of the catalogue, like flute or clarinet-bb.`,
      );
    if (!level) problems.push(`Line ${line}: the level "${cell('level')}" is unknown; use ${LEVELS.join(', ')}.`);
    const marks = WANTED_MARKS.find((known) => known === (cell('finger marks').toLowerCase() || 'level'));
    if (!marks)
      problems.push(
        `Line ${line}: the finger marks "${cell('finger marks')}" are unknown; use ${WANTED_MARKS.join(', ')}.`,
      );
    const aidWords = cell('aids')
      .toLowerCase()
      .split(/[\s,;]+/)
      .filter((word) => word !== '' && word !== 'level' && word !== 'none');
    const aids = AIDS.filter((aid) => aidWords.includes(aid));
    const odd = aidWords.find((word) => !AIDS.some((aid) => aid === word));
    if (odd) problems.push(`Line ${line}: the aid "${odd}" is unknown; use ${AIDS.join(', ')}, or level.`);
    const pitchIn = (column: 'lowest' | 'highest') => {
      if (cell(column) === '') return undefined;
      const pitch = parsePitch(cell(column));
      if (!pitch.ok)
        problems.push(
          `Line ${line}: the ${column} note "${cell(column)}" cannot be read; write letter, sign and octave, like Bb4.`,
        );
      return pitch.ok ? pitch.value : undefined;
    };
    const [low, high] = [pitchIn('lowest'), pitchIn('highest')];
    const limits = limitsProblem({ ...(low && { low }), ...(high && { high }) });
    if (limits) problems.push(`Line ${line}: ${limits}.`);
    const known = parseNotes(cell('known notes'));
    if (!known.ok) problems.push(`Line ${line}: known notes: ${known.problem}.`);
    return {
      name: cutText(plainText(cell('name')), GROUP_LIMITS.name),
      instrument: customOne?.id ?? found?.id ?? 'flute',
      ...(customOne && { custom: customOne }),
      level: level ?? 'beginner',
      ...(low && { low }),
      ...(high && { high }),
      ...(known.ok && known.value.length > 0 && { known: known.value }),
      ...(marks && marks !== 'level' && { marks }),
      ...((aidWords.length > 0 || cell('aids').toLowerCase() === 'none') && { aids }),
    };
  });
  return problems.length > 0 ? failure(problems.slice(0, 12)) : success(players);
}
