'use client';

import { useEffect, useState, type ComponentProps } from 'react';

/** Pauses before a picture is asked for again, in milliseconds. */
const PAUSES = [2_000, 4_000, 8_000, 8_000, 8_000] as const;

/** A picture that our own server draws; where it was too busy to, it is asked for again. */
export function DrawnPicture({
  src,
  alt,
  ...rest
}: ComponentProps<'img'> & { readonly src: string; readonly alt: string }) {
  const [missed, setMissed] = useState(0);
  const [shown, setShown] = useState(0);
  const pause = missed > shown ? PAUSES[shown] : undefined;
  useEffect(() => {
    if (pause === undefined) return undefined;
    const timer = setTimeout(() => setShown((before) => before + 1), pause);
    return () => clearTimeout(timer);
  }, [pause, missed]);
  // A finished drawing: there is nothing for an image optimiser to do. Another key is another request.
  // eslint-disable-next-line @next/next/no-img-element
  return <img key={shown} src={src} alt={alt} onError={() => setMissed(shown + 1)} {...rest} />;
}
