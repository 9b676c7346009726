import { useStore } from 'zustand';
import type { Group } from '../src/core/keys/group';
import type { Work } from '../src/core/work/work';
import { lanesFor } from '../src/engrave/lanes';
import type { Bench, BenchView, StudioPage } from '../src/features/work/step';
import type { Draws } from '../src/features/work/useEngraving';
import { createWorkStore } from '../src/features/work/workStore';
import { ToastArea } from '../src/ui/Toast';
import { act, shown } from './screen';

/** What the worker draws; a picture of nothing where the test does not care. */
const EMPTY_DRAWS: Draws = {
  variants: async () => [],
  line: async () => undefined,
  variationOf: async () => [],
  pools: async () => [],
  drill: async () => undefined,
  solo: async () => [],
  together: async () => undefined,
  togetherVersions: async () => [],
  readTune: async () => [],
  patterns: async () => [],
  through: async () => [],
};

/**
 * One step of the bench over a work, without the frame and without engraving: its head, body, foot and drawer. `said` are the
 * changes as the history names them, `asked` what was opened: files with `true` where they are saved, pages, bars.
 */
export function openStep(
  use: BenchView['use'],
  first: Work,
  {
    studio = {},
    groupId: firstGroup = 'lanes',
    draws = {},
    lanes = true,
  }: {
    readonly studio?: Partial<StudioPage>;
    readonly groupId?: string;
    readonly draws?: Partial<Draws>;
    /** Without lanes a step opens sooner, where it does not look at them. */
    readonly lanes?: boolean;
  } = {},
) {
  const store = createWorkStore(first, 'written');
  const asked: unknown[] = [];
  const page: StudioPage = { groups: [], custom: [], saved: [], ...studio };
  const allDraws = { ...EMPTY_DRAWS, ...draws };
  let groupId = firstGroup;
  const inGroup = (id: string): Group | undefined => page.groups.find((one) => one.id === id)?.group;
  function Opened() {
    const work = useStore(store, ({ document }) => document);
    const bench: Bench = {
      id: 't1',
      store,
      studio: page,
      groupId,
      group: inGroup(groupId),
      chooseGroup: (id) => {
        groupId = id;
        again();
      },
      openFile: (name, download) => asked.push(download ? [name, true] : name),
      openGroupFile: (name, download) => asked.push(download ? [name, true] : name),
      openPage: (name) => asked.push(name),
      showBar: (bar) => asked.push(bar),
    };
    const { drawer, body, head, foot, surface, surfaceRef } = use(bench, true);
    const { infos, numbers } = lanes ? lanesFor(work, 'written', 900) : { infos: [], numbers: [] };
    const engraved = { infos, numbers, draws: allDraws };
    return (
      <>
        {head}
        {body?.(engraved)}
        {surface && <div ref={surfaceRef} {...surface} />}
        {foot}
        <aside aria-label="Drawer">{drawer(engraved)}</aside>
      </>
    );
  }
  const whole = () => (
    <ToastArea>
      <Opened />
    </ToastArea>
  );
  const { user, rerender, container } = shown(whole());
  const again = () => rerender(whole());
  return {
    user,
    container,
    store,
    asked,
    work: () => store.getState().document,
    said: () => store.getState().past.map(({ name }) => name),
    undo: () => act(() => store.getState().undo()),
  };
}
