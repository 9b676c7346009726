import type { Metadata } from 'next';
import { cookies } from 'next/headers';
import { notFound } from 'next/navigation';
import { BenchScreen } from '../../../../features/bench/BenchScreen';
import { STEPS, stepsOf } from '../../../../features/bench/steps';
import { currentStudio } from '../../../../server/database';
import { BENCH_STAFF_SPACE } from '../../../../engrave/lanes';
import { benchPaint, paintWidth } from '../../../../server/paint';
import { listGroups, listCustomInstruments } from '../../../../server/groups';
import { listSavedRecipes } from '../../../../server/recipes';
import { openedTune } from '../../../openedTune';

interface Props {
  readonly params: Promise<{ readonly id: string; readonly step: string }>;
}

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  const opened = await openedTune((await params).id);
  return { title: opened?.work.tune.title || 'Tune' };
}

export default async function BenchPage({ params }: Props) {
  const { id, step: wanted } = await params;
  const step = STEPS.find((known) => known === wanted);
  const studio = currentStudio();
  const [opened, groups, custom, saved] = step
    ? await Promise.all([openedTune(id), listGroups(studio), listCustomInstruments(studio), listSavedRecipes(studio)])
    : [];
  if (!opened || !step || !stepsOf(opened.work.tune).includes(step)) notFound();
  const paint = await benchPaint(opened.stored, 'written', paintWidth((await cookies()).get('music-width')?.value));
  return (
    <BenchScreen
      key={id}
      id={id}
      version={opened.version}
      work={opened.work}
      step={step}
      paint={paint}
      staffSpace={BENCH_STAFF_SPACE}
      studio={{ groups: groups ?? [], custom: custom ?? [], saved: saved ?? [] }}
    />
  );
}
