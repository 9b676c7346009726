import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { customInstrument, instrumentById } from '../../../core/instruments';
import { CHARTS } from '../../../core/fingering';
import { ChartScreen } from '../../../features/instruments/ChartScreen';
import { currentStudio } from '../../../server/database';
import { chartPage } from '../../../server/paint';
import { openCustomInstrument } from '../../../server/groups';

interface Props {
  readonly params: Promise<{ readonly id: string }>;
  readonly searchParams: Promise<{ readonly system?: string | string[] }>;
}

export const dynamic = 'force-dynamic';

async function find(id: string) {
  const custom = await openCustomInstrument(currentStudio(), id);
  return { custom, instrument: custom ? customInstrument(custom) : instrumentById(id) };
}

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  return { title: (await find((await params).id)).instrument?.name ?? 'Instrument' };
}

export default async function ChartPage({ params, searchParams }: Props) {
  const { id } = await params;
  const { custom, instrument } = await find(id);
  if (!instrument) notFound();
  const { system } = await searchParams;
  const { mechanism } = instrument;
  const charts = mechanism.kind === 'holes' ? mechanism.charts : [];
  const chart = charts.find((one) => one === system) ?? charts[0];
  return (
    <ChartScreen
      key={`${id}/${chart ?? ''}`}
      id={id}
      custom={custom}
      notes={await chartPage(id, custom, chart)}
      systems={charts.map((one) => ({ id: one, name: CHARTS[one].name }))}
      system={chart}
    />
  );
}
