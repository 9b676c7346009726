import type { ChordSymbol } from '../../harmony';
import { isStep, type PitchClass } from '../../pitch';
import { failure, success, type Result } from '../../result';
import { kindOfHarmony, type HarmonyDegree } from './chordKinds';
import { child, childrenOf, numberIn, textOf, type XmlElement } from './xmlTree';

type Kind = NonNullable<ReturnType<typeof kindOfHarmony>>;

/** Reads the chord symbols of a part. A tune has few kinds of chords and many chords: each kind is looked up once. */
export class HarmonyReader {
  private readonly kinds = new Map<string, Kind>();

  /** @returns the chord as it is written, or what was found instead of a root and a kind */
  read(element: XmlElement): Result<ChordSymbol, string> {
    const kindElement = child(element, 'kind');
    const kind = kindElement?.text.trim() ?? '';
    if (kind === 'none') return success({ kind: 'no chord' });
    const root = pitchClassIn(child(element, 'root'), 'root');
    if (!root) return failure(textOf(element, 'function') ?? 'no root');
    const quality = this.kindOf(kind, kindElement?.attributes['text'], degreesIn(element));
    if (!quality) return failure(`${root.step} ${kind}`);
    const bass = pitchClassIn(child(element, 'bass'), 'bass');
    return success({ kind: 'chord', root, quality, ...(bass && { bass }) });
  }

  private kindOf(kind: string, text: string | undefined, degrees: readonly HarmonyDegree[]): Kind | undefined {
    if (degrees.length > 0) return kindOfHarmony(kind, text, degrees);
    const name = `${kind}/${text ?? ''}`;
    const known = this.kinds.get(name) ?? kindOfHarmony(kind, text, degrees);
    if (known) this.kinds.set(name, known);
    return known;
  }
}

function degreesIn(element: XmlElement): readonly HarmonyDegree[] {
  return childrenOf(element, 'degree').map((degree): HarmonyDegree => {
    const type = textOf(degree, 'degree-type');
    return {
      value: numberIn(degree, 'degree-value') ?? 0,
      alter: numberIn(degree, 'degree-alter') ?? 0,
      type: type === 'alter' || type === 'subtract' ? type : 'add',
    };
  });
}

function pitchClassIn(element: XmlElement | undefined, name: 'root' | 'bass'): PitchClass | undefined {
  const step = textOf(element, `${name}-step`);
  const alter = numberIn(element, `${name}-alter`) ?? 0;
  return isStep(step) && Math.abs(alter) <= 2 ? { step, alter } : undefined;
}
