'use client';

import { useEffect, useRef } from 'react';
import type { Player } from '../work/sound/player';

/** A light that swells with each bar's beginning and its beats: the metronome for the eye. */
export function BeatLight({ player, isOn }: { readonly player: Player; readonly isOn: boolean }) {
  const light = useRef<HTMLSpanElement>(null);
  useEffect(() => {
    if (!isOn) return undefined;
    let frame = 0;
    const draw = () => {
      const beat = player.beat();
      if (light.current) {
        light.current.style.opacity = beat ? String(Math.max(0.15, 1 - beat.share * 1.6)) : '0.15';
        light.current.style.width = beat?.isFirst ? '2.25rem' : '1.25rem';
      }
      frame = requestAnimationFrame(draw);
    };
    frame = requestAnimationFrame(draw);
    return () => cancelAnimationFrame(frame);
  }, [player, isOn]);
  return <span ref={light} aria-hidden="true" className={`h-5 w-5 rounded-full bg-cane ${isOn ? '' : 'invisible'}`} />;
}
