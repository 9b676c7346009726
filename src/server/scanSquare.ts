import { toString } from 'qrcode';

/** An address as a square to be scanned by a telephone, as SVG. */
export function squareOf(address: string): Promise<string> {
  return toString(address, { type: 'svg', margin: 1 });
}
