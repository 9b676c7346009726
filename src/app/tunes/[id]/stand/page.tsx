import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { LEVELS } from '../../../../core/instruments';
import { ON_STAND } from '../../../../core/levels';
import { StandScreen } from '../../../../features/rehearse/StandScreen';
import { openedTune } from '../../../openedTune';

interface Props {
  readonly params: Promise<{ readonly id: string }>;
  readonly searchParams: Promise<{ readonly level?: string | string[]; readonly what?: string | string[] }>;
}

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  const opened = await openedTune((await params).id);
  return { title: `Rehearse: ${opened?.work.tune.title || 'Tune'}` };
}

/** One part on the stand: large, turned by itself, learned in chunks. */
export default async function StandPage({ params, searchParams }: Props) {
  const { id } = await params;
  const { level: asked, what } = await searchParams;
  const opened = await openedTune(id);
  if (!opened) notFound();
  const level = LEVELS.find((known) => known === asked) ?? LEVELS[0];
  return (
    <StandScreen id={id} work={opened.work} level={level} what={ON_STAND.find((known) => known === what) ?? 'part'} />
  );
}
