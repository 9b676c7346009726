'use client';

import { Copy } from 'lucide-react';
import { Button } from '../../ui/Button';
import { useToast } from '../../ui/Toast';

/** Copies an address, and says whether the browser allowed it. */
export function CopyButton({ text, label }: { readonly text: string; readonly label: string }) {
  const tell = useToast();
  return (
    <Button
      onClick={() =>
        void navigator.clipboard.writeText(text).then(
          () => tell('Copied.'),
          () => tell('The browser did not allow copying: select the address and copy it.'),
        )
      }
    >
      <Copy size={14} aria-hidden="true" />
      {label}
    </Button>
  );
}
