import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { LEVELS } from '../../../../core/instruments';
import { instrumentOf, recipesOf } from '../../../../core/work';
import { ShapesScreen } from '../../../../features/levels/ShapesScreen';
import { currentStudio } from '../../../../server/database';
import { openWork } from '../../../../server/tunes';

interface Props {
  readonly params: Promise<{ readonly id: string }>;
  readonly searchParams: Promise<{ readonly level?: string | string[] }>;
}

export const metadata: Metadata = { title: 'Same shape, next fret' };

export default async function ShapesPage({ params, searchParams }: Props) {
  const { id } = await params;
  const { level: asked } = await searchParams;
  const opened = await openWork(currentStudio(), id);
  const level = LEVELS.find((known) => known === asked) ?? 'beginner';
  if (!opened) notFound();
  const recipe = recipesOf(opened.work)[level];
  const instrument = instrumentOf(recipe);
  if (instrument.mechanism.kind !== 'fretted') notFound();
  return (
    <ShapesScreen
      id={id}
      title={opened.work.tune.title}
      concertKey={recipe.keyAndTempo?.key ?? opened.work.tune.key}
      instrument={instrument}
    />
  );
}
