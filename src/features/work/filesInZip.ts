/**
 * What every file of a zip begins with, and what its directory does (PKWARE, .ZIP File Format Specification, 4.3.7 and
 * 4.3.12).
 */
const [FILE, DIRECTORY] = [0x504b0304, 0x504b0102] as const;

/** Counts the files of a zip that have come whole, from its bytes as they come in. */
export class FilesInZip {
  private begun = 0;
  private isOver = false;
  private last = 0;

  /** @returns how many files have come whole so far */
  take(bytes: Uint8Array): number {
    for (const byte of bytes) {
      this.last = ((this.last << 8) | byte) >>> 0;
      if (this.last === FILE) this.begun += 1;
      else if (this.last === DIRECTORY) this.isOver = true;
    }
    return this.isOver ? this.begun : Math.max(0, this.begun - 1);
  }
}
