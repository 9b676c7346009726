'use client';

import { ChevronLeft, ClipboardList, Printer, Redo2, Undo2 } from 'lucide-react';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { Tabs } from 'radix-ui';
import { useState } from 'react';
import { useStore } from 'zustand';
import type { CustomInstrument } from '../../core/instruments';
import { instrumentOfPlaying, type LogEntry, type PlanItem, type Pupil } from '../../core/planning';
import { Button } from '../../ui/Button';
import { TextInput } from '../../ui/Field';
import { HelpSheet } from '../../ui/HelpSheet';
import { Rail } from '../../ui/Rail';
import { useToast } from '../../ui/Toast';
import { ConflictSheet } from '../work/document/ConflictSheet';
import { SaveStatus } from '../work/document/SaveStatus';
import { nothing, send } from '../work/send';
import { historyKey, useKeys } from '../work/useKeys';
import { AboutTab } from './AboutTab';
import { LessonsTab } from './LessonsTab';
import { LogSheet } from './LogSheet';
import type { VersionedPupil } from './openPupil';
import { PrintSheet } from './PrintSheet';
import { TakeHome } from './TakeHome';
import { ProgressTab } from './ProgressTab';
import { Plays } from './PupilsScreen';
import type { Taught } from './TaughtBy';
import { usePupil } from './usePupil';
import { WeekTab } from './WeekTab';
import { WorkTab } from './WorkTab';

const TABS = { week: 'Week', work: 'Work', progress: 'Progress', lessons: 'Lessons', about: 'About' } as const;
type Tab = keyof typeof TABS;

/** A pupil: the week, the work, how it goes, the lessons, and who it is. */
export function PupilScreen({
  given,
  log,
  today,
  custom,
  taught,
}: {
  readonly given: VersionedPupil;
  readonly log: readonly LogEntry[];
  readonly today: string;
  readonly custom: readonly CustomInstrument[];
  readonly taught?: Taught | undefined;
}) {
  const screen = usePupil(given, log, today);
  const { pupil, open, update } = screen;
  const { save, past, future, undo, redo } = useStore(open.store);
  const tell = useToast();
  const router = useRouter();
  const [tab, setTab] = useState<Tab>('week');
  const [logged, setLogged] = useState<PlanItem | 'choose'>();
  const [isPrinting, setPrinting] = useState(false);
  const [help, setHelp] = useState(false);
  useKeys((event) => {
    const history = historyKey(event);
    if (history) open.store.getState()[history]();
    if (event.key === '?') setHelp(true);
    if (event.key === 'l') setLogged('choose');
    return history !== undefined || event.key === '?' || event.key === 'l';
  });
  const remove = async (isForGood: boolean) => {
    await open.saver.flush();
    const gone = await send(`/api/pupils/${open.id}${isForGood ? '?for-good=yes' : ''}`, nothing, { method: 'DELETE' });
    if (gone.ok) router.push('/pupils');
    else tell(`${gone.problem.message} Nothing was removed.`);
  };
  const newest = past.at(-1);
  const next = future[0];
  return (
    <div className="app-frame flex h-dvh">
      <Rail here="pupils" onHelp={() => setHelp(true)} />
      <div className="flex min-w-0 flex-1 flex-col bg-paper">
        <header className="flex flex-wrap items-center gap-x-3 gap-y-1 border-b border-line bg-panel px-4 py-2 md:px-6">
          <Link
            href="/pupils"
            aria-label="All pupils"
            className="flex size-8 items-center justify-center rounded hover:bg-cane-pale"
          >
            <ChevronLeft size={18} aria-hidden="true" />
          </Link>
          <div className="min-w-0">
            <h1>
              <span className="sr-only">{pupil.name}</span>
              <TextInput
                label="First name"
                value={pupil.name}
                maxLength={80}
                onCommit={(name) => {
                  if (name.trim()) update('first name', (now) => ({ ...now, name: name.trim() }));
                }}
                className="w-48 rounded border border-transparent bg-transparent px-1 font-serif text-[20px] leading-7 font-semibold hover:border-edge focus:border-edge focus:bg-white"
              />
            </h1>
            <Plays
              plays={pupil.playing.map((one) => ({
                instrument: instrumentOfPlaying(one)?.shortName ?? one.instrument,
                level: one.level,
              }))}
            />
          </div>
          <span className="ml-auto flex flex-wrap items-center gap-1.5">
            <span className="mr-2 text-[13px] text-ink-soft">
              <SaveStatus save={save} onRetry={() => void open.saver.flush()} />
            </span>
            <Button
              kind="quiet"
              aria-label={newest ? `Undo: ${newest.name}` : 'Nothing to undo'}
              disabled={!newest}
              onClick={undo}
            >
              <Undo2 size={16} aria-hidden="true" />
            </Button>
            <Button
              kind="quiet"
              aria-label={next ? `Redo: ${next.name}` : 'Nothing to redo'}
              disabled={!next}
              onClick={redo}
            >
              <Redo2 size={16} aria-hidden="true" />
            </Button>
            <Button onClick={() => setLogged('choose')}>
              <ClipboardList size={15} aria-hidden="true" />
              Log practice
            </Button>
            <Button onClick={() => setPrinting(true)}>
              <Printer size={15} aria-hidden="true" />
              Paper
            </Button>
            <TakeHome screen={screen} />
            <Link
              href={`/pupils/${open.id}/lesson`}
              className="inline-flex min-h-8 items-center rounded bg-cane px-3 font-medium text-white hover:bg-[#6f430f]"
            >
              Lesson
            </Link>
          </span>
        </header>
        <main className="flex min-h-0 flex-1 flex-col">
          <Tabs.Root
            value={tab}
            onValueChange={(value) => setTab(value as Tab)}
            className="flex min-h-0 flex-1 flex-col"
          >
            <Tabs.List aria-label="About this pupil" className="flex gap-1 border-b border-line bg-panel px-4 md:px-6">
              {Object.entries(TABS).map(([value, name]) => (
                <Tabs.Trigger
                  key={value}
                  value={value}
                  className="min-h-9 border-b-[3px] border-transparent px-3 hover:bg-cane-pale data-[state=active]:border-cane data-[state=active]:font-semibold"
                >
                  {name}
                </Tabs.Trigger>
              ))}
            </Tabs.List>
            <Tabs.Content value="week" className={PANE}>
              <WeekTab screen={screen} onLog={setLogged} />
            </Tabs.Content>
            <Tabs.Content value="work" className={PANE}>
              <WorkTab screen={screen} />
            </Tabs.Content>
            <Tabs.Content value="progress" className={PANE}>
              <ProgressTab screen={screen} />
            </Tabs.Content>
            <Tabs.Content value="lessons" className={PANE}>
              <LessonsTab screen={screen} />
            </Tabs.Content>
            <Tabs.Content value="about" className={PANE}>
              <AboutTab
                screen={screen}
                custom={custom}
                taught={taught}
                onRemove={() => void remove(false)}
                onDelete={() => void remove(true)}
              />
            </Tabs.Content>
          </Tabs.Root>
        </main>
      </div>
      {logged !== undefined && (
        <LogSheet
          screen={screen}
          item={logged === 'choose' ? undefined : logged}
          onClose={() => setLogged(undefined)}
        />
      )}
      {isPrinting && <PrintSheet id={open.id} onClose={() => setPrinting(false)} />}
      {save.kind === 'conflict' && (
        <ConflictSheet
          what="pupil"
          mine={summary(pupil)}
          theirs={summary(save.theirs)}
          onTheirs={() => open.saver.adopt({ version: save.version, document: save.theirs })}
          onMine={() => open.saver.overwrite(save.version)}
          onCopy={() => Promise.resolve('A pupil is not saved twice: choose one of the two.')}
        />
      )}
      <HelpSheet
        open={help}
        onClose={() => setHelp(false)}
        more={[
          {
            name: 'Pupil',
            keys: [
              ['l', 'log practice'],
              ['Ctrl Z, Ctrl Shift Z', 'undo, redo (outside a field)'],
            ],
          },
        ]}
      />
    </div>
  );
}

const PANE = 'flex min-h-0 flex-1 flex-col outline-none data-[state=inactive]:hidden';

function summary({ name, work }: Pupil): string {
  const count = work.filter(({ state }) => state === 'going').length;
  return `“${name}”, ${count} ${count === 1 ? 'piece' : 'pieces'} on the stand`;
}
