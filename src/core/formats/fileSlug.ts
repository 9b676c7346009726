/** A file name from a title: plain letters and digits, 60 at most; `tune` where nothing is left. Never a path. */
export function fileSlug(title: string): string {
  const plain = title
    .normalize('NFKD')
    .replace(/[\p{M}'’]/gu, '')
    .toLowerCase();
  return (
    plain
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-+|-+$/g, '')
      .slice(0, 60)
      .replace(/-+$/, '') || 'tune'
  );
}
