import type { Metadata } from 'next';
import { cookies } from 'next/headers';
import { notFound } from 'next/navigation';
import { BenchScreen } from '../../../../features/bench/BenchScreen';
import { STEPS, stepsOf } from '../../../../features/bench/steps';
import { currentStudio } from '../../../../server/database';
import { BENCH_STAFF_SPACE } from '../../../../engrave/lanes';
import { benchPaint } from '../../../../server/paint';
import { listGroups, listCustomInstruments } from '../../../../server/groups';
import { listSavedRecipes } from '../../../../server/recipes';
import { openedTune } from '../../../openedTune';

interface Props {
  readonly params: Promise<{ readonly id: string; readonly step: string }>;
}

/** What the music may take at 1280 × 800, the size the bench is drawn for before the browser has said its own. */
const USUAL_WIDTH = 800;

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
  const asked = Number((await cookies()).get('music-width')?.value);
  const width = asked >= 240 && asked <= 4_000 ? Math.round(asked) : USUAL_WIDTH;
  const paint = await benchPaint(opened.stored, 'written', width);
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
