'use client';

import { Printer } from 'lucide-react';
import type { ReactNode } from 'react';
import { z } from 'zod';
import { Button } from '../../ui/Button';
import { Sheet } from '../../ui/Sheet';
import { CopyButton } from './CopyButton';
import { ScanSquare } from './ScanSquare';

/** A link that was made just now, as the server gives it this once. */
export const madeLinkSchema = z.object({ address: z.string(), endsAt: z.string(), square: z.string() });
export type MadeLink = z.infer<typeof madeLinkSchema>;

/** A link with its square, to be scanned, printed or copied. It is shown once. */
export function MadeLinkSheet({
  made,
  title,
  heading,
  alt,
  until,
  children,
  onClose,
}: {
  /** Nothing: the sheet is closed. */
  readonly made: MadeLink | undefined;
  readonly title: string;
  /** What stands over the square on paper. */
  readonly heading: string;
  readonly alt: string;
  /** How long it lasts, and what to mind. */
  readonly until: (made: MadeLink) => string;
  /** What else can be done with it. */
  readonly children?: (made: MadeLink) => ReactNode;
  readonly onClose: () => void;
}) {
  return (
    <Sheet
      open={made !== undefined}
      onClose={onClose}
      title={title}
      description="Scan it with a telephone, or open the address. It is shown this once."
      width="max-w-md"
    >
      {made && (
        <div>
          <div data-print-alone className="flex flex-col items-start gap-3">
            <p className="hidden font-serif text-xl font-semibold print:block">{heading}</p>
            <ScanSquare svg={made.square} alt={alt} size={220} />
            <p className="font-mono text-[13px] break-all">{made.address}</p>
            <p className="text-[13px]">{until(made)}</p>
          </div>
          <span className="mt-4 flex flex-wrap gap-2">
            <Button kind="main" onClick={() => window.print()}>
              <Printer size={14} aria-hidden="true" />
              Print
            </Button>
            <CopyButton text={made.address} label="Copy the address" />
            {children?.(made)}
          </span>
        </div>
      )}
    </Sheet>
  );
}
