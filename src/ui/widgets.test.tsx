/** @jest-environment jsdom */
import { useState } from 'react';
import { button, choose, field, press, screen, shown, tick, waitFor, words } from '../../tests/screen';
import { Select } from './Select';
import { Field, TextInput } from './Field';
import { InstrumentSelect } from './InstrumentSelect';
import { Sheet } from './Sheet';
import { MultiSelect } from './MultiSelect';
import { ToastArea, useToast } from './Toast';

const PACES = [
  { value: 'bar', label: 'one note a bar' },
  { value: 'half', label: 'two notes a bar', hint: 'usual' },
  { value: 'beat', label: 'a note on every beat' },
] as const;
type Pace = (typeof PACES)[number]['value'];

describe('a choice', () => {
  function Paces({ taken }: { readonly taken: Pace[] }) {
    const [pace, setPace] = useState<Pace>('half');
    return (
      <Select
        label="Pace"
        value={pace}
        options={PACES}
        onChange={(next) => {
          taken.push(next);
          setPace(next);
        }}
      />
    );
  }
  const trigger = () => screen.getByRole('combobox', { name: 'Pace' });

  test('says what is chosen, not its hint, and holds no lines until somebody comes to it', async () => {
    const taken: Pace[] = [];
    const { user } = shown(<Paces taken={taken} />);
    expect([words(trigger()), screen.queryAllByRole('option').length]).toEqual(['two notes a bar', 0]);
    await choose(user, 'Pace', 'one note a bar');
    expect([words(trigger()), taken]).toEqual(['one note a bar', ['bar']]);
  });

  test('letters typed on it go through its lines while it is closed', async () => {
    const taken: Pace[] = [];
    const { user } = shown(<Paces taken={taken} />);
    await user.tab();
    expect(document.activeElement).toBe(trigger());
    await user.keyboard('a');
    expect([taken, words(trigger())]).toEqual([['beat'], 'a note on every beat']);
  });

  test('by keys: opened at what is chosen, gone through, taken; Escape takes nothing', async () => {
    const taken: Pace[] = [];
    const { user } = shown(<Paces taken={taken} />);
    const onLine = (name: string) => waitFor(() => expect(words(document.activeElement ?? trigger())).toMatch(name));
    await user.tab();
    await user.keyboard('{Enter}');
    await onLine('two notes a bar');
    await user.keyboard('{ArrowDown}');
    await onLine('a note on every beat');
    await user.keyboard('{Home}');
    await onLine('one note a bar');
    await user.keyboard('a');
    await onLine('a note on every beat');
    await user.keyboard('{Enter}');
    expect(taken).toEqual(['beat']);
    await user.keyboard('{Enter}');
    await onLine('a note on every beat');
    await user.keyboard('{ArrowUp}');
    await onLine('two notes a bar');
    await user.keyboard('{Escape}');
    expect([taken, screen.queryByRole('listbox')]).toEqual([['beat'], null]);
  });

  test('the same again is no change', async () => {
    const taken: Pace[] = [];
    const { user } = shown(<Paces taken={taken} />);
    await choose(user, 'Pace', /^two notes a bar/);
    expect(taken).toEqual([]);
  });

  test('a value that is not among the lines leaves it blank and takes the first that is chosen', async () => {
    const taken: string[] = [];
    const { user } = shown(
      <Select<string> label="Pace" value="gone" options={PACES} onChange={(next) => taken.push(next)} />,
    );
    expect(words(trigger())).toBe('');
    await choose(user, 'Pace', 'one note a bar');
    expect(taken).toEqual(['bar']);
  });
});

describe('a line of text', () => {
  function Line({ taken, first = 'Low Water' }: { readonly taken: string[]; readonly first?: string }) {
    const [value, setValue] = useState(first);
    return (
      <TextInput
        label="Title"
        value={value}
        onCommit={(text) => {
          taken.push(text);
          setValue(text);
        }}
      />
    );
  }

  test('takes effect by Enter or when it is left, once; Escape puts it back', async () => {
    const taken: string[] = [];
    const { user } = shown(<Line taken={taken} />);
    await user.type(field('Title'), ' again{Enter}');
    await user.tab();
    expect(taken).toEqual(['Low Water again']);
    await user.type(field('Title'), ' and again{Escape}');
    await user.tab();
    expect([taken.length, field('Title').value]).toEqual([1, 'Low Water again']);
    await user.type(field('Title'), '!');
    await user.tab();
    expect(taken[1]).toBe('Low Water again!');
  });

  test('what is typed back to what it was changes nothing', async () => {
    const taken: string[] = [];
    const { user } = shown(<Line taken={taken} />);
    await user.type(field('Title'), 'x{Backspace}{Enter}');
    expect(taken).toEqual([]);
  });

  test('half a character at the end, left by a full field, goes', async () => {
    const taken: string[] = [];
    const { user } = shown(<Line taken={taken} first="" />);
    await user.click(field('Title'));
    await user.paste('Tide \ud83c');
    await user.tab();
    expect(taken).toEqual(['Tide ']);
  });

  test('its label, its help and what is wrong are told with it', () => {
    shown(
      <>
        <Field label="Bars" help="Sixteen is usual.">
          {(id, describedBy) => <input id={id} aria-describedby={describedBy} />}
        </Field>
        <Field label="Beats" problem="Write a number." help="Four is usual.">
          {(id, describedBy) => <input id={id} aria-describedby={describedBy} />}
        </Field>
        <Field label="Plain">{(id, describedBy) => <input id={id} aria-describedby={describedBy} />}</Field>
      </>,
    );
    const note = (name: string) => {
      const id = field(name).getAttribute('aria-describedby');
      return id === null ? undefined : document.getElementById(id);
    };
    expect([note('Bars')?.textContent, note('Beats')?.textContent, note('Plain')]).toEqual([
      'Sixteen is usual.',
      'Write a number.',
      undefined,
    ]);
    expect([note('Bars')?.getAttribute('role'), note('Beats')?.getAttribute('role')]).toEqual([null, 'alert']);
  });
});

describe('a list to tick', () => {
  function Fruits({ least = 0, taken }: { readonly least?: number; readonly taken: (readonly string[])[] }) {
    const [chosen, setChosen] = useState<readonly string[]>(['turns']);
    return (
      <MultiSelect
        label="Ways"
        text={`${chosen.length} ways`}
        least={least}
        options={['graces', 'turns', 'slides'].map((value) => ({ value, label: value }))}
        chosen={chosen}
        onChange={(next) => {
          taken.push(next);
          setChosen(next);
        }}
      />
    );
  }

  test('stays open while somebody ticks; the ticks come in the order of the list', async () => {
    const taken: (readonly string[])[] = [];
    const { user } = shown(<Fruits taken={taken} />);
    await tick(user, 'Ways, 1 ways', 'slides', 'graces', 'turns');
    expect(taken).toEqual([
      ['turns', 'slides'],
      ['graces', 'turns', 'slides'],
      ['graces', 'slides'],
    ]);
    expect([button('Ways, 2 ways'), screen.queryByRole('menu')]).toEqual([expect.anything(), null]);
  });

  test('the last ones stay ticked where some must', async () => {
    const taken: (readonly string[])[] = [];
    const { user } = shown(<Fruits least={1} taken={taken} />);
    await tick(user, 'Ways, 1 ways', 'turns', 'graces', 'turns', 'graces');
    expect(taken).toEqual([['graces', 'turns'], ['graces']]);
  });
});

describe('a sheet', () => {
  function Page({ first }: { readonly first?: () => void }) {
    const [isOpen, setOpen] = useState(false);
    return (
      <>
        <button type="button" onClick={() => setOpen(true)}>
          Open
        </button>
        <Sheet
          open={isOpen}
          onClose={() => setOpen(false)}
          title="New tune"
          description="Empty bars."
          {...(first && { focusFirst: first })}
        >
          <input aria-label="Title" />
        </Sheet>
      </>
    );
  }

  test('is named and described; the focus goes into it and back to who opened it', async () => {
    const { user } = shown(<Page />);
    await press(user, 'Open');
    const sheet = screen.getByRole('dialog', { name: 'New tune' });
    const described = sheet.getAttribute('aria-describedby') ?? '';
    expect([sheet.contains(document.activeElement), document.getElementById(described)?.textContent]).toEqual([
      true,
      'Empty bars.',
    ]);
    await user.keyboard('{Escape}');
    expect([screen.queryByRole('dialog'), document.activeElement]).toEqual([null, button('Open')]);
  });

  test('may say itself where the keys go first', async () => {
    const { user } = shown(<Page first={() => field('Title').focus()} />);
    await press(user, 'Open');
    expect(document.activeElement).toBe(field('Title'));
    await press(user, 'Close');
    expect(screen.queryByRole('dialog')).toBeNull();
  });
});

describe('notices', () => {
  function Teller({ undone }: { readonly undone: string[] }) {
    const tell = useToast();
    return (
      <>
        {['one', 'two', 'three', 'four'].map((name) => (
          <button
            key={name}
            type="button"
            onClick={() => tell(`${name} was removed.`, { label: 'Restore', run: () => undone.push(name) })}
          >
            {name}
          </button>
        ))}
      </>
    );
  }

  test('the last three stand; each takes back its own, once', async () => {
    const undone: string[] = [];
    const { user } = shown(
      <ToastArea>
        <Teller undone={undone} />
      </ToastArea>,
    );
    for (const name of ['one', 'two', 'three', 'four']) await press(user, name);
    const standing = () => ['one', 'two', 'three', 'four'].filter((name) => screen.queryByText(`${name} was removed.`));
    expect(standing()).toEqual(['two', 'three', 'four']);
    await user.click(screen.getAllByRole('button', { name: 'Restore' })[1] ?? button('Restore'));
    expect([undone, standing()]).toEqual([['three'], ['two', 'four']]);
  });
});

describe('instruments', () => {
  const custom = { id: 'own-1', name: 'Low reed', base: 'clarinet-bb' } as never;

  test('stand by family, the studio’s own last; one that was removed from the studio stays while it is chosen', async () => {
    const taken: unknown[] = [];
    const { user } = shown(
      <InstrumentSelect
        label="Instrument"
        value="own-1"
        custom={[]}
        chosen={custom}
        onChange={(id, facts) => taken.push([id, facts])}
      />,
    );
    const groups = screen.getAllByRole('group').map((one) => one.getAttribute('label'));
    expect([groups[0], groups.at(-1)]).toEqual(['Woodwind', 'Custom']);
    await user.selectOptions(screen.getByRole('combobox', { name: 'Instrument' }), 'cello');
    await user.selectOptions(screen.getByRole('combobox', { name: 'Instrument' }), 'Low reed');
    expect(taken[0]).toEqual(['cello', undefined]);
  });

  test('without own ones there is no such group', () => {
    shown(<InstrumentSelect label="Instrument" value="flute" custom={[]} onChange={() => undefined} />);
    expect(screen.queryByRole('group', { name: 'Custom' })).toBeNull();
  });
});
