/**
 * The engraver makes the ids inside a picture from a seed, and two pictures on one page may not share any. Each kind of
 * picture has a range of seeds of its own.
 */
const KINDS = [
  'bench row',
  'bar version',
  'line',
  'variation',
  'opening',
  'phrase',
  'drill',
  'pattern',
  'together',
  'together bar',
] as const;
export type PictureKind = (typeof KINDS)[number];

/** More pictures of a kind than one page shows. */
const MAX_OF_A_KIND = 100_000;

/** @param index 0 or more; beyond `MAX_OF_A_KIND` it begins anew */
export function pictureSeed(kind: PictureKind, index: number): number {
  return 1 + KINDS.indexOf(kind) * MAX_OF_A_KIND + (index % MAX_OF_A_KIND);
}
