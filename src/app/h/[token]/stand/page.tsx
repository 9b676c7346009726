import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { workForPlayer } from '../../../../core/keys';
import { StandScreen } from '../../../../features/rehearse/StandScreen';
import { linkedHandout } from '../../../linkedHandout';
import { openedTune } from '../../../openedTune';

export const metadata: Metadata = { title: 'Stand', robots: { index: false, follow: false }, referrer: 'no-referrer' };
export const dynamic = 'force-dynamic';

/** A part of a pack on the stand (`?for=` whom, `tune=`): no tune but those in the pack. */
export default async function HandoutStandPage({
  params,
  searchParams,
}: {
  readonly params: Promise<{ readonly token: string }>;
  readonly searchParams: Promise<Readonly<Record<string, string | readonly string[] | undefined>>>;
}) {
  const [{ token }, query, { pack }] = await Promise.all([params, searchParams, linkedHandout()]);
  const tune = pack.recipients.find(({ id }) => id === query['for'])?.tunes.find(({ id }) => id === query['tune']);
  const opened = tune && (await openedTune(tune.id));
  if (!opened) notFound();
  return (
    <StandScreen
      id={opened.id}
      work={workForPlayer(opened.work, tune.player)}
      level={tune.player.level}
      what="part"
      home={{ address: `/h/${token}`, name: 'All of it' }}
    />
  );
}
