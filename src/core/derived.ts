import { LRUCache } from 'lru-cache';

/** How a derived function remembers. */
interface Remembering<Args extends readonly unknown[]> {
  /** Answers kept for arguments that differ in plain values alone, beside the same objects; 16 by default. */
  readonly most?: number;
  /**
   * What stands for the arguments, where equal ones are often not the same objects: the objects to hold weakly, and
   * plain values that say all else the answer depends on. Whatever is left out here must not matter.
   */
  readonly by?: (...args: Args) => readonly unknown[];
}

let isOn = true;

/** Whether derived functions remember. Caches that are tuned by hand ask here. */
export function isRemembering(): boolean {
  return isOn;
}

/** Runs something with nothing remembered, neither used nor kept: what is worked out then is worked out anew. */
export function withoutMemory<Value>(run: () => Value): Value {
  const before = isOn;
  isOn = false;
  try {
    return run();
  } finally {
    isOn = before;
  }
}

/**
 * The same function, which remembers its answers by its arguments: objects weakly, as they are, for as long as they are
 * there; plain values in a bounded list, of which the one that was not asked for the longest goes first. For functions
 * of things that do not change and of nothing else; an answer is shared by all who ask, so it must not be changed
 * either.
 *
 * @param make what is remembered
 * @param remembering how much, and by what; the argument list by default
 */
export function derived<Args extends readonly unknown[], Value>(
  make: (...args: Args) => Value,
  { most = 16, by }: Remembering<Args> = {},
): (...args: Args) => Value {
  const root = new Place<Value>(most);
  return (...args) => {
    if (!isOn) return make(...args);
    const parts = by ? by(...args) : args;
    let place = root;
    // Objects are told apart by the way to their place; plain values by their index, type and text.
    let name = '';
    for (let k = 0; k < parts.length; k += 1) {
      const part = parts[k];
      if (typeof part === 'object' && part !== null) place = place.of(part);
      else name += `${k}${typeof part}:${String(part)};`;
    }
    const known = place.get(name);
    if (known) return known.value;
    const value = make(...args);
    place.set(name, { value });
    return value;
  };
}

/** What a bounded cache holds under a name, made and kept where it holds nothing. A fault in making keeps nothing. */
export function remembered<Name extends NonNullable<unknown>, Value extends NonNullable<unknown>>(
  cache: LRUCache<Name, Value>,
  name: Name,
  make: () => Value,
): Value {
  const known = cache.get(name);
  if (known !== undefined) return known;
  const value = make();
  cache.set(name, value);
  return value;
}

/** An answer; it may be `undefined`. */
interface Answer<Value> {
  readonly value: Value;
}

/** What is remembered of some objects: answers by plain values, and what is remembered of one object more. */
class Place<Value> {
  private name: string | undefined;
  private answer: Answer<Value> | undefined;
  /** Only where a second answer is kept: most places hold one. */
  private answers: LRUCache<string, Answer<Value>> | undefined;
  private places: WeakMap<object, Place<Value>> | undefined;

  constructor(private readonly most: number) {}

  of(part: object): Place<Value> {
    this.places ??= new WeakMap();
    let place = this.places.get(part);
    if (!place) {
      place = new Place(this.most);
      this.places.set(part, place);
    }
    return place;
  }

  get(name: string): Answer<Value> | undefined {
    if (this.answers) return this.answers.get(name);
    return this.name === name ? this.answer : undefined;
  }

  set(name: string, answer: Answer<Value>): void {
    if (this.answers) this.answers.set(name, answer);
    else if (this.name === undefined || this.most === 1) [this.name, this.answer] = [name, answer];
    else {
      this.answers = new LRUCache({ max: this.most });
      if (this.answer) this.answers.set(this.name, this.answer);
      this.answers.set(name, answer);
      this.answer = undefined;
    }
  }
}
