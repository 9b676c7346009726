'use client';

import { Backpack } from 'lucide-react';
import { useState } from 'react';
import { type Group, type PackChoice, USUAL_PACK } from '../../core/keys';
import { dateAt } from '../../core/planning';
import { Button } from '../../ui/Button';
import { PackSheet } from '../work/pack/PackSheet';
import { TunePicker } from '../work/pack/TunePicker';
import type { OpenGroup } from './openGroups';

/** What everybody in a group takes home from a rehearsal. */
export function GroupTakeHome({ open, group }: { readonly open: OpenGroup; readonly group: Group }) {
  const [isOpen, setOpen] = useState(false);
  const keep = async (choice: PackChoice) => {
    const { document, change } = open.store.getState();
    if (JSON.stringify(document.pack) !== JSON.stringify(choice))
      change('choose what to take home', { ...document, pack: choice });
    // What is made is made of what is saved.
    await open.saver.flush();
  };
  const hasPupils = group.players.some(({ pupil }) => pupil !== undefined);
  return (
    <>
      <Button disabled={group.players.length === 0} onClick={() => setOpen(true)}>
        <Backpack size={14} aria-hidden="true" />
        To take home
      </Button>
      {isOpen && (
        <PackSheet
          to={{ kind: 'group', id: open.id, name: group.name }}
          given={group.pack ?? USUAL_PACK.group}
          isAsBefore={group.pack !== undefined}
          today={dateAt(new Date())}
          sheets={[
            ...(hasPupils ? (['week'] as const) : []),
            'part',
            ...(group.players.length > 1 ? (['together'] as const) : []),
            'pools',
            'solo',
            'ear',
          ]}
          files={['slow', 'tempo', 'musicxml']}
          tunes={({ tunes = [] }, change) => (
            <TunePicker chosen={tunes} onChange={(chosen) => change({ tunes: chosen })} />
          )}
          onKeep={keep}
          onClose={() => setOpen(false)}
        />
      )}
    </>
  );
}
