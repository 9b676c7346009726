import type { Metadata } from 'next';
import { InstrumentsScreen } from '../../features/instruments/InstrumentsScreen';
import { currentStudio } from '../../server/database';
import { listCustomInstruments } from '../../server/groups';

export const metadata: Metadata = { title: 'Instruments' };
export const dynamic = 'force-dynamic';

export default async function InstrumentsPage() {
  return <InstrumentsScreen custom={await listCustomInstruments(currentStudio())} />;
}
