import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { instrumentById } from '../../../../core/instruments';
import { ByEarScreen } from '../../../../features/tune/ByEarScreen';
import { byEarPage } from '../../../../server/paint';
import { openedTune } from '../../../openedTune';

interface Props {
  readonly params: Promise<{ readonly id: string }>;
  readonly searchParams: Promise<{ readonly for?: string | readonly string[] }>;
}

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
  return <ByEarScreen id={id} sheet={await byEarPage(opened.stored, instrument?.id)} />;
}
