/** What was made of two objects that do not change, for as long as both are there. */
export class PairMemo<First extends object, Second extends object, Value extends object> {
  private readonly byFirst = new WeakMap<First, WeakMap<Second, Value>>();

  /** What belongs to the two, made where there is none. */
  getOr(first: First, second: Second, make: () => Value): Value {
    let bySecond = this.byFirst.get(first);
    if (!bySecond) {
      bySecond = new WeakMap();
      this.byFirst.set(first, bySecond);
    }
    const known = bySecond.get(second);
    if (known) return known;
    const made = make();
    bySecond.set(second, made);
    return made;
  }
}
