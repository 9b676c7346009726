import type { Metadata } from 'next';
import { noteHandoutUsed } from '../../../db/handoutRepository';
import { HandoutScreen } from '../../../features/handout/HandoutScreen';
import { currentStudio } from '../../../server/database';
import { soundBank } from '../../../server/soundBank';
import { linkedHandout } from '../../linkedHandout';

export const metadata: Metadata = {
  title: 'To take home',
  robots: { index: false, follow: false },
  referrer: 'no-referrer',
};
export const dynamic = 'force-dynamic';

/** A pack that was handed out, by its link: pages, sounds and the stand. */
export default async function HandoutPage({ params }: { readonly params: Promise<{ readonly token: string }> }) {
  const [{ token }, { pack, handout }] = await Promise.all([params, linkedHandout()]);
  await noteHandoutUsed(currentStudio(), handout, new Date());
  const hasSounds = (await soundBank()) !== undefined;
  return (
    <HandoutScreen
      token={token}
      title={pack.title}
      date={pack.date}
      note={pack.choice.note}
      recipients={pack.recipients.map(({ id, player, instrument, goals, caution, sheets, files, tunes }) => ({
        id,
        name: player.name,
        level: player.level,
        instrument,
        goals,
        caution,
        sheets: [...new Set(sheets.map(({ words }) => words))],
        tunes: tunes.map((tune) => ({
          id: tune.id,
          title: tune.title,
          files: files
            .filter((file) => file.tune === tune.id && (hasSounds || file.what === 'musicxml'))
            .map(({ what }) => what),
        })),
      }))}
    />
  );
}
