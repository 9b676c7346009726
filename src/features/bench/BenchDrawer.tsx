'use client';

import { ChevronDown, ChevronUp } from 'lucide-react';
import { useState, type ReactNode } from 'react';
import { useReady } from '../../ui/useReady';

const USUAL_WIDTH = 292;

/** The drawer beside the lanes; on a narrow screen a sheet from below, which opens and closes. */
export function BenchDrawer({
  name,
  width = USUAL_WIDTH,
  children,
}: {
  readonly name: string;
  readonly width?: number | undefined;
  readonly children: ReactNode;
}) {
  const isReady = useReady();
  const [isOpen, setOpen] = useState(false);
  return (
    <aside
      inert={!isReady}
      aria-label={`${name} drawer`}
      style={{ '--drawer-width': `${width}px` }}
      className="no-print flex shrink-0 flex-col border-line bg-panel max-[899px]:max-h-[62dvh] max-[899px]:border-t min-[900px]:w-(--drawer-width) min-[900px]:border-l"
    >
      <button
        type="button"
        aria-expanded={isOpen}
        onClick={() => setOpen(!isOpen)}
        className="flex min-h-11 w-full shrink-0 items-center justify-center gap-1.5 font-semibold min-[900px]:hidden"
      >
        {isOpen ? <ChevronDown size={17} aria-hidden="true" /> : <ChevronUp size={17} aria-hidden="true" />}
        {name}
      </button>
      <div className={`min-h-0 flex-1 overflow-y-auto p-3.5 ${isOpen ? '' : 'max-[899px]:hidden'}`}>{children}</div>
    </aside>
  );
}
