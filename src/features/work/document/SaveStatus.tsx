'use client';

import { useWhoAsks } from '../../../ui/WhoAsks';
import type { SaveState } from './documentStore';

/** How saving goes, in words, with what can be done about it. `onDark` is for the foot line of the bench. */
export function SaveStatus({
  save,
  onRetry,
  onDark = false,
}: {
  readonly save: SaveState<unknown>;
  readonly onRetry: () => void;
  readonly onDark?: boolean;
}) {
  const isGuest = useWhoAsks()?.role === 'guest';
  const isTrouble = save.kind === 'waiting' || save.kind === 'refused';
  const alarm = onDark ? 'font-semibold text-[#ffd9a0]' : 'font-semibold text-warn';
  return (
    <span role="status" className={`flex items-center gap-2 ${isTrouble ? alarm : ''}`}>
      {isGuest && save.kind === 'saved' ? 'You are a guest here: you can read and print.' : saveText(save)}
      {isTrouble && (
        <button
          type="button"
          onClick={onRetry}
          className={`min-h-7 rounded px-1.5 underline underline-offset-2 ${onDark ? 'text-white' : ''}`}
        >
          Try now
        </button>
      )}
    </span>
  );
}

function saveText(save: SaveState<unknown>): string {
  switch (save.kind) {
    case 'saved':
      return 'saved';
    case 'unsaved':
    case 'saving':
      return 'saving …';
    case 'waiting':
      return `Not saved yet: ${save.message} Your work is safe in this browser, and the save is tried again.`;
    case 'refused':
      return `Not saved: ${save.message}`;
    case 'conflict':
      return 'Not saved: two versions';
  }
}
