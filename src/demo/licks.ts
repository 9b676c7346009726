/** A lick of the made-up studio: a line of our own, and which pupils have it. */
export interface DemoLick {
  readonly slug: string;
  readonly abc: string;
  readonly pupils?: readonly string[];
}

const lick = (slug: string, title: string, key: string, body: string, pupils?: readonly string[]): DemoLick => ({
  slug,
  abc: `X:1\nT:${title}\nC:The Net Loft\nM:4/4\nL:1/8\nQ:1/4=96\nK:${key}\n${body}\n`,
  ...(pupils && { pupils }),
});

/**
 * The dozen that hangs on the wall of the room: four over ii–V–I, four over one kind of chord, two turnarounds, two
 * that come home.
 */
export const DEMO_LICKS: readonly DemoLick[] = [
  lick('lick-net-mender', 'Net mender', 'C', '"Dm7"FAce d2 cA|"G7"B^ABG F2 D2|"Cmaj7"E4 z4|]', ['Juno', 'Lorne']),
  lick('lick-low-tide', 'Low tide', 'C', '"Dm7"A2 FD ^CDFA|"G7"_A2 GF D2 B,2|"Cmaj7"C4 z4|]', ['Lorne']),
  lick('lick-rain-on-the-quay', 'Rain on the quay', 'Am', '"Bm7b5"F2 DB, DF A2|"E7b9"^G2 Bd f2 ed|"Am"c4 z4|]', [
    'Tamsin',
  ]),
  lick('lick-the-lamp-goes-out', 'The lamp goes out', 'Am', '"Bm7b5"d2 cB A2 GF|"E7b9"E2 F^G B2 d2|"Am"c2 A2 z4|]'),
  lick('lick-gulls-turn', "Gull's turn", 'G', '"G7"G2 B^c d2 =fd|B2 ^AB G4|]', ['Juno']),
  lick('lick-mud-between-the-toes', 'Mud between the toes', 'F', '"F7"F2 _A=A c2 _ec|A2 _AF C2 F2|]'),
  lick('lick-creel', 'Creel', 'Dm', '"Dm7"D2 FA cAGF|]'),
  lick('lick-morning-rope', 'Morning rope', 'C', '"Cmaj7"E2 GB d2 BG|]', ['Sefa']),
  lick('lick-twice-round-the-post', 'Twice round the post', 'C', '"C6"E2 G2 "Am7"A2 ce|"Dm7"d2 cA "G7"B2 GB|]'),
  lick('lick-the-long-way-back', 'The long way back', 'C', '"Cmaj7"G2 EC "Am7"E^GAc|"Dm7"f2 ed "G7"^cd B2|]'),
  lick('lick-harbour-bell', 'Harbour bell', 'C', '"G7"d2 BG F2 ED|"C"E2 C2 z4|]', ['Oda', 'Sefa']),
  lick('lick-short-oar', 'Short oar', 'C', '"Dm7"A2 FD "G7"B,2 DF|]'),
];
