/** A bounded cache: the entry that was not asked for the longest goes when there is no room for another. */
export class Lru<Key, Value> {
  private readonly entries = new Map<Key, Value>();

  /** @param most how many entries are held, at least 1 */
  constructor(private readonly most: number) {}

  get size(): number {
    return this.entries.size;
  }

  get(key: Key): Value | undefined {
    const value = this.entries.get(key);
    if (value === undefined) return undefined;
    this.entries.delete(key);
    this.entries.set(key, value);
    return value;
  }

  set(key: Key, value: Value): void {
    this.entries.delete(key);
    this.entries.set(key, value);
    if (this.entries.size <= this.most) return;
    const [oldest] = this.entries.keys();
    if (oldest !== undefined) this.entries.delete(oldest);
  }

  /** The entry of a key, made where there is none. */
  getOr(key: Key, make: () => Value): Value {
    const known = this.get(key);
    if (known !== undefined) return known;
    const made = make();
    this.set(key, made);
    return made;
  }
}
