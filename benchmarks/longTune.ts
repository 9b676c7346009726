/**
 * A tune of any length in ABC: eight bars of our own, a step of variety in each round so that no two rows are alike.
 */
export function longAbc(bars: number): string {
  const pattern = [
    '"G"G3 A B2 dB |',
    '"Em7"e2 dB {c}A2 G2 |',
    '"C"c3 B (3cde g2 |',
    '"D7"f2 ed A4 |',
    '"G"G>A Bd g2 fg |',
    '"E7/G#"e^g b2 b4- |',
    '"Am7"b2 ag "D7"fedc |',
    '"G6"B4 G4 |',
  ];
  const letters = 'GABcdefg';
  const body = Array.from({ length: bars }, (_, index) => {
    const bar = pattern[index % pattern.length] ?? '';
    const round = Math.floor(index / pattern.length);
    return round === 0 ? bar : bar.replace(/[A-G](?=\d? )/, letters[(index + round) % letters.length] ?? 'G');
  });
  const lines = Array.from({ length: Math.ceil(bars / 4) }, (_, k) => body.slice(4 * k, 4 * k + 4).join(' '));
  return `X:1\nT:Long measure\nM:4/4\nL:1/8\nQ:1/4=100\nK:G\n${lines.join('\n')}\n`;
}
