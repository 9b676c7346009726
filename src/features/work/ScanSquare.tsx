/** A square to be scanned by a telephone. @param svg as the server made it; it is shown as a picture, so that nothing in it runs */
export function ScanSquare({
  svg,
  alt,
  size = 168,
}: {
  readonly svg: string;
  readonly alt: string;
  readonly size?: number;
}) {
  return (
    // eslint-disable-next-line @next/next/no-img-element -- a picture made of text that is at hand
    <img
      src={`data:image/svg+xml,${encodeURIComponent(svg)}`}
      alt={alt}
      width={size}
      height={size}
      className="rounded border border-line bg-white"
    />
  );
}
