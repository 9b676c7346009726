/** What lies in the bin, as the page gets it. */
export interface BinItem {
  readonly kind: 'tune' | 'group' | 'pupil' | 'recipe' | 'instrument';
  readonly id: string;
  readonly name: string;
  /** ISO 8601. */
  readonly until: string;
}

const KIND_WORDS: Readonly<Record<BinItem['kind'], string>> = {
  tune: 'tune',
  group: 'group',
  pupil: 'pupil',
  recipe: 'saved recipe',
  instrument: 'custom instrument',
};

export function binKindWord(kind: BinItem['kind']): string {
  return KIND_WORDS[kind];
}

const DAY = 86_400_000;

/** How long something in the bin can still be restored. */
export function daysLeft(until: string, now: string): string {
  const days = Math.ceil((Date.parse(until) - Date.parse(now)) / DAY);
  return days <= 0 ? 'deleted today' : days === 1 ? 'one more day' : `${days} more days`;
}
