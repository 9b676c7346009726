import { capitalised } from '../core/plainText';
import { semitones } from '../core/pitch';
import type { ByEarSheet } from './byEarSheet';
import { readGeometry } from './geometry';
import type { Paper, TextStyle } from './sheet';
import { BODY, Page } from './sheetPage';

const CONTOUR = { width: 110, height: 26 } as const;
const QUIET: TextStyle = { ...BODY, colour: '#333333' };

/**
 * A tune to be learned by ear, on paper: home note, start and what each phrase does. The notes are on a page of their own
 * at the end, so that they can be put away.
 */
export function byEarPdf(sheet: ByEarSheet, playerName: string | undefined, paper: Paper): Promise<Uint8Array> {
  const { title, composer, reader, meter, phrases } = sheet;
  const page = new Page(`${title}: by ear`, composer || undefined, paper);
  page.title(title, ['by ear', playerName, composer, reader, meter].filter(Boolean).join(' · '));
  page.space(6);
  const keys =
    sheet.readerId !== '' && sheet.concertKey !== sheet.keyName
      ? `for you: ${sheet.keyName} · sounding: ${sheet.concertKey}`
      : sheet.keyName;
  page.paragraph(`Home note: ${sheet.home} (${keys}). It starts on ${sheet.start}, the ${sheet.startDegree}.`, BODY);
  page.paragraph(
    `Phrases: ${phrases.length}, in the order ${sheet.form}${sheet.playedForm === sheet.form ? '' : `, heard as ${sheet.playedForm}`}.`,
    BODY,
  );
  page.paragraph(
    'Sing the home note and find it. Listen to one phrase at a time, sing it, then play it; look at the notes last.',
    QUIET,
  );
  phrases.forEach(({ label, bars, words, pitches }, k) => {
    page.heading(`${label}   Phrase ${k + 1}, ${bars}, ${pitches.length} notes`, 70);
    const narrow = page.inside - CONTOUR.width - 20;
    if (words.kin) page.paragraph(`${capitalised(words.kin)}.`, BODY, narrow);
    page.paragraph(
      `It ${words.contour}: from the ${words.startsOn}, ${words.shape}; it ends on the ${words.endsOn}.`,
      BODY,
      narrow,
    );
    page.contour(pitches.map(semitones), CONTOUR);
    page.space(4);
  });
  page.turnOver();
  page.title(`${title}: the notes`, 'to check with, when you can play it');
  phrases.forEach(({ label, bars, picture }, k) => {
    page.heading(`${label}   Phrase ${k + 1}, ${bars}`);
    page.picture(picture, readGeometry(picture, 1));
  });
  return page.end(`${title} · by ear`);
}
