import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { instrumentById } from '../../../../core/instruments/catalogue';
import { ByEarScreen } from '../../../../features/tune/ByEarScreen';
import { byEarSheet } from '../../../../engrave/byEarSheet';
import { barsPicture } from '../../../../server/engraving';
import { openedTune } from '../../../openedTune';

interface Props {
  readonly params: Promise<{ readonly id: string }>;
  readonly searchParams: Promise<{ readonly for?: string | readonly string[] }>;
}

const PICTURE_WIDTH = 700;

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  const opened = await openedTune((await params).id);
  return { title: `By ear: ${opened?.work.tune.title || 'Tune'}` };
}

export default async function ByEarPage({ params, searchParams }: Props) {
  const { id } = await params;
  const asked = (await searchParams).for;
  const instrument = typeof asked === 'string' ? instrumentById(asked) : undefined;
  const opened = await openedTune(id);
  if (!opened || (asked !== undefined && !instrument)) notFound();
  return (
    <ByEarScreen
      id={id}
      sheet={await byEarSheet(opened.work.tune, instrument, (tune, from, to) =>
        barsPicture(tune, from, to, PICTURE_WIDTH),
      )}
    />
  );
}
