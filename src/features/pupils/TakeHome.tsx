'use client';

import { Backpack } from 'lucide-react';
import { useState } from 'react';
import { PACK_FILES, type PackChoice, USUAL_PACK } from '../../core/keys';
import type { Pupil } from '../../core/planning';
import { Button } from '../../ui/Button';
import { PackSheet } from '../work/pack/PackSheet';
import type { PupilOnScreen } from './usePupil';

const SHEETS = ['week', 'part', 'pools', 'solo', 'ear'] as const;

/** What a pupil takes home from a lesson. */
export function TakeHome({ screen }: { readonly screen: PupilOnScreen }) {
  const [isOpen, setOpen] = useState(false);
  const { pupil, open, today, update } = screen;
  const keep = async (choice: PackChoice) => {
    if (JSON.stringify(pupil.pack) !== JSON.stringify(choice))
      update('choose what to take home', (now) => ({ ...now, pack: choice }));
    // What is made is made of what is saved.
    await open.saver.flush();
  };
  return (
    <>
      <Button onClick={() => setOpen(true)}>
        <Backpack size={15} aria-hidden="true" />
        To take home
      </Button>
      {isOpen && (
        <PackSheet
          to={{ kind: 'pupil', id: open.id, name: pupil.name }}
          given={pupil.pack ?? USUAL_PACK.pupil}
          isAsBefore={pupil.pack !== undefined}
          today={today}
          sheets={SHEETS}
          files={PACK_FILES}
          tunes={(choice, change) => <OnTheStand pupil={pupil} choice={choice} change={change} />}
          onKeep={keep}
          onClose={() => setOpen(false)}
        />
      )}
    </>
  );
}

/** What is on the stand, each to be left out. */
function OnTheStand({
  pupil,
  choice: { without = [] },
  change,
}: {
  readonly pupil: Pupil;
  readonly choice: PackChoice;
  readonly change: (part: Partial<PackChoice>) => void;
}) {
  const works = pupil.work.filter(({ state, tune }) => state === 'going' && tune !== undefined);
  return (
    <fieldset className="mb-3">
      <legend className="text-[13px] font-medium text-ink-soft">Of what is on the stand</legend>
      {works.map(({ id, title, tune = '' }) => (
        <label key={id} className="flex min-h-7 items-center gap-2">
          <input
            type="checkbox"
            checked={!without.includes(tune)}
            onChange={({ target }) =>
              change({ without: target.checked ? without.filter((one) => one !== tune) : [...without, tune] })
            }
          />
          <span className="font-serif">{title}</span>
        </label>
      ))}
      {works.length === 0 && (
        <p className="text-[13px] text-ink-soft">Nothing from the shelf is on the stand: add it under Work.</p>
      )}
    </fieldset>
  );
}
