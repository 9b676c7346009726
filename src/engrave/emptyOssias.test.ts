import type { Staff } from '../core/formats/musicxml/scoreFile';
import { withoutEmptyOssias } from './emptyOssias';

const staff = (ossiaBars?: readonly number[]) =>
  ({ ...(ossiaBars && { ossiaBars: new Set(ossiaBars) }) }) as unknown as Staff;
/**
 * A row as the engraver draws it: each measure has a group for each staff, with groups inside, and one line with a path
 * for each.
 */
const measure = (id: string, staves: number) =>
  `<g id="${id}" class="measure">${Array.from(
    { length: staves },
    (_, k) =>
      `<g id="${id}s${k}" class="staff"><path d="lines"/><g class="layer"><g class="note"/><g class="rest"></g></g></g>`,
  ).join('')}<g class="barLine">${Array.from({ length: staves }, (_, k) => `<path d="${id}b${k}"/>`).join('')}</g></g>`;
const row = (...measures: readonly string[]) => `<svg><g class="system">${measures.join('')}</g></svg>`;
const line = (from: number, to: number) => ({ from, to });
const idsIn = (svg: string) => [...svg.matchAll(/ id="(m\d+s\d+)"/g)].map(([, id]) => id);
const linesIn = (svg: string) => [...svg.matchAll(/d="(m\d+b\d+)"/g)].map(([, id]) => id);

test('a small staff stays over its bars alone, with its piece of the barline', () => {
  const svg = withoutEmptyOssias(
    row(measure('m4', 2), measure('m5', 2), measure('m6', 2)),
    [staff([5]), staff()],
    line(4, 7),
  );
  expect(idsIn(svg)).toEqual(['m4s1', 'm5s0', 'm5s1', 'm6s1']);
  expect(linesIn(svg)).toEqual(['m4b1', 'm5b0', 'm5b1', 'm6b1']);
});

test('two small staves in one row are looked at one by one', () => {
  const svg = withoutEmptyOssias(
    row(measure('m0', 3), measure('m1', 3)),
    [staff([0]), staff([1]), staff()],
    line(0, 2),
  );
  expect(idsIn(svg)).toEqual(['m0s0', 'm0s2', 'm1s1', 'm1s2']);
});

test('what is left is still one well-formed picture', () => {
  const svg = withoutEmptyOssias(row(measure('m0', 2), measure('m1', 2)), [staff([1]), staff()], line(0, 2));
  expect((svg.match(/<g[ >]/g) ?? []).length - (svg.match(/<g [^>]*\/>/g) ?? []).length).toBe(
    (svg.match(/<\/g>/g) ?? []).length,
  );
});

test('a row without small staves comes back as it is', () => {
  const svg = row(measure('m0', 2));
  expect(withoutEmptyOssias(svg, [staff(), staff()], line(0, 1))).toBe(svg);
});
