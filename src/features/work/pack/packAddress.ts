import type { PackChoice } from '../../../core/keys';

/** For whom a pack is made. */
export interface PackFor {
  readonly kind: 'pupil' | 'group';
  readonly id: string;
  readonly name: string;
}

/** The address of a file of a pack. */
export function packAddress(
  { kind, id }: PackFor,
  file: 'contents.json' | 'making' | 'pack.pdf' | 'pack.zip',
  { sheets, files, paper, tunes = [], without = [], note = '' }: PackChoice,
  date: string,
): `/api/${string}` {
  const query = new URLSearchParams({
    sheets: sheets.join(','),
    files: files.join(','),
    paper,
    date,
    ...(kind === 'group' && { tunes: tunes.join(',') }),
    ...(without.length > 0 && { without: without.join(',') }),
    ...(note !== '' && { note }),
  });
  return `/api/${kind}s/${id}/pack/${file}?${query.toString()}`;
}
