'use client';

import { Sheet } from './Sheet';

const KEYS: readonly (readonly [string, readonly (readonly [string, string])[]])[] = [
  [
    'Everywhere',
    [
      ['?', 'this sheet'],
      ['/', 'search the shelf (on the shelf)'],
    ],
  ],
  [
    'On the bench',
    [
      ['P', 'written pitch ⇄ concert pitch'],
      ['L', 'listen from the selected bar or the caret; stop'],
      ['Ctrl Z, Ctrl Shift Z', 'undo, redo'],
      ['Tab to the music, then ← →', 'bar by bar'],
      ['↑ ↓', 'lane by lane, on to the next row'],
      ['Home, End', 'first, last bar'],
      ['Enter', 'select the bar: its changes are in the drawer; on the Tune step: write there'],
      ['Esc', 'deselect'],
    ],
  ],
];

/** Keys that a screen adds, in groups. */
export interface HelpGroup {
  readonly name: string;
  readonly keys: readonly (readonly [string, string])[];
}

export function HelpSheet({
  open,
  onClose,
  more = [],
}: {
  readonly open: boolean;
  readonly onClose: () => void;
  readonly more?: readonly HelpGroup[];
}) {
  return (
    <Sheet
      open={open}
      onClose={onClose}
      title="Keys"
      description="Everything on the bench works from the keyboard."
      width={more.length > 0 ? 'max-w-4xl' : 'max-w-lg'}
    >
      <div
        className={`overflow-auto ${more.length > 0 ? 'columns-2 gap-8' : ''}`}
        tabIndex={0}
        role="group"
        aria-label="All keys"
      >
        {[...KEYS, ...more.map(({ name, keys }) => [name, keys] as const)].map(([where, keys]) => (
          <section key={where} className="mb-4 break-inside-avoid">
            <h3 className="mb-1 font-semibold">{where}</h3>
            <dl className="grid grid-cols-[10rem_1fr] gap-y-1">
              {keys.map(([key, meaning]) => (
                <div key={key} className="contents">
                  <dt className="font-medium text-cane">{key}</dt>
                  <dd>{meaning}</dd>
                </div>
              ))}
            </dl>
          </section>
        ))}
        <p className="border-t border-line pt-3 text-ink-soft">
          Stop when something hurts, tingles or makes you dizzy, and rest often; a teacher or a clinician decides, not
          the software.
        </p>
      </div>
    </Sheet>
  );
}
