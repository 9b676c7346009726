'use client';

import { useCallback, useMemo, useRef, useState } from 'react';
import type { OnStand } from '../../core/levels';
import type { ClickPattern } from '../../core/rehearsal';
import type { Tune } from '../../core/score';
import { usualFeel, type Feel } from '../../sound/backing';
import type { BandMember, Mixed, PlayWishes, Volumes } from '../../sound/playPlan';

/** What sounds of the line: the example, nothing, or the example and then as long a silence. */
export type Example = 'heard' | 'silent' | 'call';

/** Two thirds and one third, as swing is usually taught. */
const SWUNG = { unit: 'eighth', ratio: 2 } as const;

/** Who plays along on the stand, and how: the line, the backing, the metronome, other levels, and how loud each is. */
export function useSoundChoices(tune: Tune, what: OnStand, hasGroup = false) {
  const [example, setExample] = useState<Example>(what === 'pool' ? 'silent' : 'heard');
  const [backing, setBacking] = useState<Feel | 'none'>(
    hasGroup ? 'none' : tune.drill && !tune.drill.over ? 'drone' : usualFeel(tune),
  );
  const [click, setClick] = useState<ClickPattern | 'none'>('all');
  const [parts, setParts] = useState<1 | 2 | 3>(1);
  const [groups, setGroups] = useState<readonly number[]>();
  const [swing, setSwing] = useState<'written' | 'even' | 'swung'>('written');
  const [band, setBand] = useState<readonly BandMember[]>([]);
  /** The others of the group play along. */
  const [groupPlays, setGroupPlays] = useState(hasGroup);
  // What is louder or softer is heard at once, without beginning again.
  const volumes = useRef<Volumes>({});
  /** The same until one of them changes. */
  const wishes = useMemo(
    (): Partial<PlayWishes> & Pick<PlayWishes, 'backing' | 'click'> => ({
      backing,
      click: click !== 'none',
      ...(click !== 'none' && { clickPattern: click }),
      clickParts: parts,
      ...(groups && { clickGroups: groups }),
      ...(swing !== 'written' && { swing: swing === 'even' ? ('even' as const) : SWUNG }),
    }),
    [backing, click, parts, groups, swing],
  );
  return {
    /** What is chosen, and how each is chosen otherwise. */
    choices: {
      example,
      backing,
      click,
      parts,
      groups,
      swing,
      band,
      groupPlays,
      setExample,
      setBacking,
      setClick,
      setParts,
      setGroups,
      setSwing,
      setBand,
      setGroupPlays,
    },
    /** How loud each is now. */
    volumes: useCallback(() => volumes.current, []),
    setVolume: useCallback((who: Mixed, share: number) => {
      volumes.current = { ...volumes.current, [who]: share };
    }, []),
    wishes,
  };
}
