/** Where the group that begins at a place ends. */
export function endOfGroup(svg: string, start: number): number {
  let depth = 0;
  for (const tag of svg.slice(start).matchAll(/<g[ >][^>]*?(\/?)>|<g>|<\/g>/g)) {
    if (tag[1] === '/') continue;
    depth += tag[0] === '</g>' ? -1 : 1;
    if (depth === 0) return start + tag.index + tag[0].length;
  }
  return svg.length;
}

/** A picture without the groups of a class. */
export function withoutGroups(svg: string, className: string): string {
  const opening = new RegExp(`<g [^>]*class="${className}[^"]*"[^>]*>`);
  let [left, rest] = ['', svg];
  for (let at = rest.search(opening); at >= 0; at = rest.search(opening)) {
    left += rest.slice(0, at);
    rest = rest.slice(endOfGroup(rest, at));
  }
  return left + rest;
}
