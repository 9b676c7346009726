'use client';

import dynamic from 'next/dynamic';
import { Tabs } from 'radix-ui';
import {
  useCallback,
  useDeferredValue,
  useEffect,
  useMemo,
  useRef,
  useState,
  type KeyboardEvent,
  type ReactNode,
} from 'react';
import { useStore } from 'zustand';
import { analyseTune, type TuneAnalysis } from '../../core/analysis';
import { becoming } from '../../core/work';
import { hasSecondPart, type Tune } from '../../core/score';
import type { EngravedRow } from '../../engrave/engraver';
import type { HelpGroup } from '../../ui/HelpSheet';
import { DrawerTabs } from '../../ui/DrawerTabs';
import type { Bench, Engraved, ViewContent } from '../work/step';
import { historyKey, isTyping } from '../work/useKeys';
import { CaretFields } from '../work/writing/CaretFields';
import { ChordStrip } from '../work/writing/ChordStrip';
import { press, WRITING_COMMANDS } from '../work/writing/commands';
import { WritingBar } from '../work/writing/WritingBar';
import { WritingLayer } from '../work/writing/WritingLayer';
import { CaretFollower, WritingStatus } from '../work/writing/WritingStatus';
import { Writing } from '../work/writing/writingStore';
import { AnalysisPanel } from './AnalysisPanel';
import { PhraseLayer } from './PhraseLayer';
import { TuneDrawer } from './TuneDrawer';

/** The editor is fetched when the text is looked at, not before. */
const TextView = dynamic(() => import('./TextView').then((module) => module.TextView), {
  ssr: false,
  loading: () => <p className="text-ink-soft">Opening the text …</p>,
});

export const WRITING_HELP: readonly HelpGroup[] = WRITING_COMMANDS.map(({ name, commands }) => ({
  name: `Writing: ${name.toLowerCase()}`,
  keys: commands.filter(({ keys }) => keys !== '').map(({ keys, name: meaning }) => [keys, meaning] as const),
}));

type Tab = 'details' | 'made' | 'text';
const TAB_NAMES: Readonly<Record<Tab, string>> = { details: 'Details', made: 'Made of', text: 'As text' };
const TAB_WIDTHS: Readonly<Record<Tab, number>> = { details: 292, made: 316, text: 400 };

const WRITE_AT_ONCE = '#write';

/** The Tune step: what stands at the tune's head, what it is made of, its text, and writing it. */
export function useTuneStep(bench: Bench, isOpen: boolean): ViewContent {
  const { store } = bench;
  const [writing] = useState(() => new Writing(store));
  const isWriting = useStore(writing.store, ({ on }) => on) && isOpen;
  const hasChordRow = useStore(writing.store, ({ chordRow }) => chordRow);
  const hasSecond = useStore(store, ({ document }) => hasSecondPart(document.tune));
  const [tab, setTab] = useState<Tab>('details');
  const surface = useRef<HTMLDivElement>(null);
  const quietTune = useDeferredValue(useStore(store, ({ document }) => document.tune));
  const isAnalysed = isOpen && tab === 'made';
  const analysis = useMemo(() => (isAnalysed ? analyseTune(quietTune) : undefined), [isAnalysed, quietTune]);

  const takeFocus = useCallback(() => requestAnimationFrame(() => surface.current?.focus({ preventScroll: true })), []);
  const onOpenBar = useCallback(
    (bar: number) => {
      writing.start({ bar, at: 0 });
      takeFocus();
    },
    [writing, takeFocus],
  );
  // A tune that was made from nothing is opened to be written.
  useEffect(() => {
    if (window.location.hash !== WRITE_AT_ONCE) return;
    window.history.replaceState(null, '', window.location.pathname);
    onOpenBar(0);
  }, [onOpenBar]);
  const over = useCallback(
    (row: EngravedRow) => (
      <WritingLayer writing={writing} bench={store} row={row} hasSecond={hasSecond} onTouch={takeFocus} />
    ),
    [writing, store, hasSecond, takeFocus],
  );
  const above = useCallback(
    (row: EngravedRow) => <ChordStrip writing={writing} bench={store} row={row} />,
    [writing, store],
  );
  const under = useCallback(
    (row: EngravedRow) => analysis && <PhraseLayer tune={quietTune} analysis={analysis} row={row} />,
    [analysis, quietTune],
  );
  const onKeyDown = (event: KeyboardEvent<HTMLDivElement>) => {
    if (isTyping(event.target) || historyKey(event)) return;
    const { key, ctrlKey, metaKey, altKey, shiftKey } = event;
    if (!press(writing, { key, ctrlKey, metaKey, altKey, shiftKey, isAltGraph: event.getModifierState('AltGraph') }))
      return;
    event.preventDefault();
    event.stopPropagation();
  };
  const caret = useCallback(() => (isWriting ? writing.caret : undefined), [isWriting, writing]);

  return {
    drawer: (engraved) => <TuneTabs bench={bench} engraved={engraved} tab={tab} onTab={setTab} analysis={analysis} />,
    drawerWidth: TAB_WIDTHS[tab],
    head: (
      <WithTune store={store}>{(tune) => <WritingBar writing={writing} tune={tune} onFocus={takeFocus} />}</WithTune>
    ),
    layers: {
      onOpen: onOpenBar,
      ...(isWriting && { over }),
      ...(isWriting && hasChordRow && { above }),
      ...(analysis && { under }),
    },
    lanes: isWriting ? 'tune' : 'all',
    caret,
    leave: () => writing.stop(),
    ...(isWriting && {
      foot: (
        <>
          <WithTune store={store}>
            {(tune) => <CaretFields writing={writing} tune={tune} onFocus={takeFocus} />}
          </WithTune>
          <CaretFollower writing={writing} bench={store} />
        </>
      ),
      surface: {
        onKeyDown,
        role: 'application',
        'aria-label': 'The tune, being written',
        'aria-describedby': 'writing-place',
        tabIndex: 0,
      },
      surfaceRef: surface,
      status: <WritingStatus writing={writing} bench={store} />,
      takeFocus,
    }),
  };
}

/** What is drawn anew with every change of the tune, and the frame around it is not. */
function WithTune({ store, children }: Pick<Bench, 'store'> & { readonly children: (tune: Tune) => ReactNode }) {
  return children(useStore(store, ({ document }) => document.tune));
}

function TuneTabs({
  bench,
  engraved,
  tab,
  onTab,
  analysis,
}: {
  readonly bench: Bench;
  readonly engraved: Engraved;
  readonly tab: Tab;
  readonly onTab: (tab: Tab) => void;
  readonly analysis: TuneAnalysis | undefined;
}) {
  const { id, store, openFile } = bench;
  const { document: work, selection, dispatch } = useStore(store);
  const quietWork = useDeferredValue(work);
  const [reader, setReader] = useState('concert');
  const onText = useCallback(
    (next: Tune, session: string) => {
      store.getState().dispatch((present) => becoming('Text', present, { ...present, tune: next }), session);
    },
    [store],
  );
  return (
    <DrawerTabs label="About the tune" names={TAB_NAMES} value={tab} onChange={onTab} listClass="mb-3 flex gap-1">
      <Tabs.Content value="details">
        <TuneDrawer
          work={quietWork}
          info={engraved.infos[0]}
          numbers={engraved.numbers}
          selection={selection}
          onDispatch={dispatch}
          onFile={openFile}
        />
      </Tabs.Content>
      <Tabs.Content value="made">
        {analysis && (
          <AnalysisPanel
            id={id}
            work={quietWork}
            analysis={analysis}
            reader={reader}
            onReader={setReader}
            onDispatch={dispatch}
            onFile={openFile}
            onBar={bench.showBar}
          />
        )}
      </Tabs.Content>
      <Tabs.Content value="text">
        <TextView tune={work.tune} onTune={onText} />
      </Tabs.Content>
    </DrawerTabs>
  );
}
