'use client';

import { useEffect, useState } from 'react';
import { dayAndTime } from './dates';

/** Day and time as the clock of whoever reads it has them: in UTC, and saying so, until the browser is asked. */
export function Moment({ iso }: { readonly iso: string }) {
  const [isHere, setHere] = useState(false);
  useEffect(() => setHere(true), []);
  return <time dateTime={iso}>{isHere ? dayAndTime(iso, 'here') : dayAndTime(iso)}</time>;
}
