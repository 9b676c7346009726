import { child, childrenOf, type XmlElement } from './xmlTree';

/** The slurs that are open in each voice. The document nests slurs; here it is told where the file crosses them. */
export class OpenSlurs {
  private readonly byVoice = new Map<string, string[]>();

  /** @returns whether a slur ends at this note while one that began after it goes on */
  follow(note: XmlElement, voice: string): boolean {
    const open = this.byVoice.get(voice) ?? [];
    this.byVoice.set(voice, open);
    const marks = childrenOf(child(note, 'notations'), 'slur');
    let crosses = false;
    // A note may end one slur and begin the next: ends come first.
    for (const type of ['stop', 'start'])
      for (const slur of marks) {
        if (slur.attributes['type'] !== type) continue;
        const number = slur.attributes['number'] ?? '1';
        if (type === 'start') open.push(number);
        else if (open.at(-1) === number) open.pop();
        else if (open.includes(number)) {
          open.splice(open.lastIndexOf(number), 1);
          crosses = true;
        }
      }
    return crosses;
  }
}
