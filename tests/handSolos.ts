/**
 * Choruses written by hand for this program, as a teacher would write them out: what composed ones are measured
 * against. The first three come from the design's models.
 */
export const HAND_SOLOS = [
  {
    level: 'beginner',
    head: 'M:4/4\nL:1/8\nK:F',
    body: '"F7"z2C_E F2F2|"F7"_A2F2 z4|"F7"z2C_E F2F2|"F7"c2_A2 z4|"Bb7"z2F_A B2B2|"Bb7"_A2F2 z4|"F7"z2C_E F2F2|"F7"_A2F_E F2z2|"C7"c2_e2 c2B2|"Bb7"_A2F2 z4|"F7"z2C_E F2_A2|"F7"F4 z4|]',
  },
  {
    level: 'intermediate',
    head: 'M:4/4\nL:1/8\nK:F',
    body: '"F7"z2FG _A=Ac2|"F7"_e2cA F2z2|"F7"z2FG _A=Ac2|"F7"_e2cA z3d-|"Bb7"d2BF _A2F2|"Bb7"B2_AF D2z2|"F7"z2FG _A=Ac2|"F7"A2F_E C2z2|"C7"z2GB e2dc|"Bb7"d2BF _A2F2|"F7"A2cA F2_E2|"F7"F4 z4|]',
  },
  {
    level: 'advanced',
    head: 'M:4/4\nL:1/8\nK:F',
    body: '"F7"z2z^G Ac_ed|"F7"cBAG F2z2|"F7"z2z^G Ac_ed|"F7"Ac_e_g f_ec^c|"Bb7"d2f_a gfdB|"Bb7"_A2zF _A=AB=B|"F7"c2z^G Ac_ed|"F7"cBAG F2z2|"C7"z2f^d ecBG|"Bb7"F_ABd c2z2|"F7"A/B/c/d/ _e/d/c/B/ AcF2|"F7"z2C_E F4|]',
  },
  {
    level: 'beginner',
    head: 'M:4/4\nL:1/8\nK:C',
    body: '"C"z2CD E2G2|"Am"E2C2 z4|"Dm7"z2CD A2D2|"G7"G2D2 z4|"C"z2CD E2G2|"Am"A2E2 z4|"Dm7"A2D2 "G7"D2G2|"C"C4 z4|]',
  },
  {
    level: 'intermediate',
    head: 'M:4/4\nL:1/8\nK:C',
    body: '"C"z2EG c2BG|"Am"A2cA E2z2|"Dm7"z2FA c2AF|"G7"B2dB G2z2|"C"z2EG c2BG|"Am"A2cA E2z2|"Dm7"F2AF "G7"D2FB|"C"c4 z4|]',
  },
  {
    level: 'advanced',
    head: 'M:4/4\nL:1/8\nK:C',
    body: '"C"z2E^D EGcB|"Am"AcEA c2z2|"Dm7"z2F^C DFAc|"G7"BdFB d2z2|"C"z2E^D EGce|"Am"dcBA E2z2|"Dm7"FAcA "G7"BGFD|"C"E2c2 z4|]',
  },
  {
    level: 'beginner',
    head: 'M:4/4\nL:1/8\nK:Em',
    body: '"Am7"z2EG A2E2|"D7"A2D2 z4|"Gmaj7"z2DE G2B2|"Cmaj7"G2E2 z4|"F#m7b5"z2EG A2E2|"B7b9"B2A2 B2z2|"Em6"z2EG B2G2|"Em6"E4 z4|]',
  },
  {
    level: 'intermediate',
    head: 'M:4/4\nL:1/8\nK:Em',
    body: '"Am7"z2CE G2EC|"D7"F2DF A2z2|"Gmaj7"z2GB d2BG|"Cmaj7"E2GE C2z2|"F#m7b5"z2AC E2CA,|"B7b9"^D2FA c2z2|"Em6"z2GB e2BG|"Em6"E4 z4|]',
  },
  {
    level: 'advanced',
    head: 'M:4/4\nL:1/8\nK:Em',
    body: '"Am7"z2E^G AceG|"D7"FAdF A2z2|"Gmaj7"z2d^c dgfd|"Cmaj7"egce g2z2|"F#m7b5"z2e^d ecAF|"B7b9"^DFAc B2z2|"Em6"z2B^A BegB|"Em6"E2G2 E2z2|]',
  },
  {
    level: 'intermediate',
    head: 'M:4/4\nL:1/8\nK:Ddor',
    body: '"Dm7"z2DF A2GF|"Dm7"D2FD C2z2|"Dm7"z2DF A2cA|"Dm7"G2FG A2z2|"G7"z2DF G2FD|"G7"B2GB d2z2|"Dm7"z2DF A2GF|"Dm7"D4 z4|]',
  },
] as const;
