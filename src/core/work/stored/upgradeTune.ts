type Json = Readonly<Record<string, unknown>>;

function isObject(value: unknown): value is Json {
  return typeof value === 'object' && value !== null && !Array.isArray(value);
}

/** From each schema number to the next. A step touches what it knows and leaves the rest for the checks that follow. */
const UPGRADES: Readonly<Record<number, (tune: Json) => Json>> = {
  1: (tune) => ({
    ...tune,
    schema: 2,
    bars: mapEach(tune['bars'], (bar) => ({ ...bar, events: mapEach(bar['events'], withVerses) })),
  }),
};

/**
 * A tune document of an older shape, brought step by step to the present one. What is no document comes back as it is.
 */
export function upgraded(data: unknown): unknown {
  let current = data;
  for (let steps = 0; isObject(current) && steps < 100; steps += 1) {
    const schema = current['schema'];
    const upgrade = typeof schema === 'number' ? UPGRADES[schema] : undefined;
    if (!upgrade) return current;
    current = upgrade(current);
  }
  return current;
}

function mapEach(list: unknown, change: (one: Json) => Json): unknown {
  return Array.isArray(list) ? list.map((one: unknown) => (isObject(one) ? change(one) : one)) : list;
}

/** Schema 1 held one syllable a note; since 2 there are verses. */
function withVerses(event: Json): Json {
  const { lyric, ...rest } = event;
  return isObject(lyric) ? { ...rest, lyrics: [{ verse: 1, ...lyric }] } : event;
}
