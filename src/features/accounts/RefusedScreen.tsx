'use client';

import Link from 'next/link';
import { DoorFrame } from './DoorFrame';

/** A page that is not for this person's role. */
export function RefusedScreen({ role, studio }: { readonly role: string; readonly studio: string }) {
  return (
    <DoorFrame title="Not for you here">
      <p className="mb-4">
        You are a {role} of “{studio}”, and this page is for others. An owner of the studio can change what you are.
      </p>
      <Link href="/" className="text-cane underline underline-offset-4">
        Back to the shelf
      </Link>
    </DoorFrame>
  );
}
